import { createMotion, fromAxisAngle, type Joint, type Motion, type Vec3 } from '@lantern/motion';

/** A dog trotting on the spot: a trunk that lies between four legs of equal length. Nobody's capture: each leg swings as a pendulum, in pairs. */
export function trot({ seconds = 2, fps = 60, named = true } = {}): Motion {
  const joints: Joint[] = [];
  const add = (name: string, parent: number, offset: Vec3, endSites: readonly Vec3[] = []) => {
    joints.push({ name: named ? name : `b${joints.length}`, parent, offset, restRotation: [0, 0, 0, 1], endSites });
    return joints.length - 1;
  };
  const hips = add('pelvis', -1, [0, 0.62, 0]);
  const spine = add('spine', hips, [0, 0.02, 0.28]);
  const chest = add('chest', spine, [0, 0, 0.28]);
  const neck = add('neck', chest, [0, 0.1, 0.16]);
  add('head', neck, [0, 0.16, 0.1], [[0, 0.04, 0.2]]);
  add('tail', hips, [0, 0, -0.1], [[0, -0.1, -0.2]]);
  const legs = [
    ['hind', hips, -0.02],
    ['fore', chest, 0],
  ].flatMap(([name, from, z]) =>
    (['L', 'R'] as const).map((side) => {
      const x = side === 'L' ? 0.1 : -0.1;
      const upper = add(`${name} thigh ${side}`, Number(from), [x, -0.04, Number(z)]);
      const lower = add(`${name} shin ${side}`, upper, [0, -0.28, 0.02]);
      add(`${name} paw ${side}`, lower, [0, -0.26, -0.02], [[0, -0.02, 0.06]]);
      return { upper, lower, phase: (name === 'hind') === (side === 'L') ? 0 : Math.PI };
    }),
  );
  const motion = createMotion({ joints }, fps, Math.round(seconds * fps) + 1);
  for (let f = 0; f < motion.frames; f++) {
    const t = (2 * Math.PI * f) / fps / 0.6;
    motion.rootPositions.set([0, 0.62 + 0.01 * Math.cos(2 * t), 0], f * 3);
    for (const { upper, lower, phase } of legs) {
      motion.rotations.set(fromAxisAngle([1, 0, 0], 0.4 * Math.sin(t + phase)), (f * joints.length + upper) * 4);
      motion.rotations.set(fromAxisAngle([1, 0, 0], 0.3 + 0.3 * Math.cos(t + phase)), (f * joints.length + lower) * 4);
    }
  }
  return motion;
}
