import { capture } from '@lantern/capture';
import { toMetres, writeBvh, type Motion } from '@lantern/motion';

const NAMES: Record<string, string> = { Hips: 'bekken', Waist: 'rug 1', Ribs: 'rug 2', Neck: 'hals', Head: 'kop' };
const PARTS: Record<string, string> = {
  Collar: 'sleutel',
  Arm: 'arm',
  Forearm: 'elle',
  Hand: 'hand',
  Thigh: 'dij',
  Shin: 'kuit',
  Foot: 'voet',
  Toes: 'teen',
};

/** A walk as another system would have sent it: other joint names, inches, Z up, 100 frames a second. */
export function foreignWalk(): string {
  const { motion } = capture('walk', { seconds: 8, fps: 100, seed: 31 });
  const named: Motion = {
    ...motion,
    skeleton: {
      joints: motion.skeleton.joints.map((joint) => {
        const [, side, part] = /^(Left|Right)(.*)$/.exec(joint.name) ?? [];
        return { ...joint, name: side ? `${PARTS[part]}_${side === 'Left' ? 'a' : 'b'}` : NAMES[joint.name] };
      }),
    },
  };
  return writeBvh(toMetres(named, { metresPerUnit: 1, up: '-z' }), { unitsPerMetre: 1 / 0.0254 });
}
