import { bodyOf } from '../anatomy/body-of';
import { editedGlb } from '../formats/glb-edit';
import { nodesAtRest, rotationOf } from '../formats/gltf-affine';
import { openGltf } from '../formats/gltf-container';
import { nodeParents } from '../formats/gltf-joints';
import { angleBetween, makeContinuous, multiply, rotate, type Quat } from '../math/quat';
import type { Side } from '../model/body';
import { forwardKinematics } from '../model/kinematics';
import type { JointsInFile } from './written-poses';
import type { FiledClip } from './file-facts';

/** What the joints are called that go where hands and feet go. */
export const targetName = (side: Side, part: 'hand' | 'foot'): string => `target-${side}-${part}`;

/** Keys of targets may be off by this where those of the clip are not thinned at all, metres. */
const LEAST_BOUND = 1e-5;
/** Metres beside a target that count, so that its turn does. */
const BESIDE = 0.1;

/**
 * A file with four joints more under its root, which go where hands and feet go: goals for limbs that an engine solves itself.
 *
 * @param root the node that carries the travel
 * @returns the file as it was where the clips are no person's
 */
export function withTargets(
  bytes: Uint8Array,
  clips: readonly FiledClip[],
  { turn, metresPerUnit }: JointsInFile,
  root: number,
): Uint8Array {
  const body = bodyOf(clips[0].clip.motion);
  if (!body) return bytes;
  const gltf = openGltf(bytes);
  const world = nodesAtRest(gltf, nodeParents(gltf.json));
  const rest = { turn: [0, 0, 0, 1], at: [world[root * 12 + 9], world[root * 12 + 10], world[root * 12 + 11]] };
  rotationOf(rest.turn, 0, world, root * 12);
  const scale = Math.hypot(world[root * 12 + 3], world[root * 12 + 4], world[root * 12 + 5]);
  const wanted = (['left', 'right'] as const).flatMap((side) =>
    (
      [
        ['hand', body.arms[side].wrist],
        ['foot', body.legs[side].ankle],
      ] as const
    ).flatMap(([part, joint]) => (joint >= 0 ? [{ name: targetName(side, part), joint }] : [])),
  );
  return editedGlb(bytes, (document, binary) => {
    const first = document.nodes.length;
    document.nodes.push(...wanted.map(({ name }) => ({ name })));
    document.nodes[root].children = [...(document.nodes[root].children ?? []), ...wanted.map((_, i) => first + i)];
    for (const { name, clip, written } of clips) {
      const animation = document.animations?.find((own) => own.name === name);
      if (!animation) continue;
      const globals = forwardKinematics(written.motion);
      const { frames, fps } = written.motion;
      const channel = (node: number, path: 'translation' | 'rotation', values: Float32Array, kept: readonly number[]) => {
        const size = path === 'rotation' ? 4 : 3;
        const input = binary.accessor(
          Float32Array.from(kept, (f) => f / fps),
          1,
        );
        const output = binary.accessor(
          Float32Array.from(kept.flatMap((f) => Array.from(values.subarray(f * size, f * size + size)))),
          size,
        );
        animation.channels.push({ sampler: animation.samplers.length, target: { node, path } });
        animation.samplers.push({ input, output, interpolation: 'LINEAR' });
      };
      const bound = clip.thin?.boundM ?? LEAST_BOUND;
      wanted.forEach(({ joint }, i) => {
        const [places, turns] = [new Float32Array(frames * 3), new Float32Array(frames * 4)];
        for (let f = 0; f < frames; f++) {
          const own = f * globals.joints + joint;
          put(
            places,
            turns,
            f,
            { rest, scale, turn, metresPerUnit },
            globals.positions.subarray(own * 3, own * 3 + 3),
            globals.rotations.subarray(own * 4, own * 4 + 4),
          );
        }
        makeContinuous(turns, 0, frames, 4);
        channel(first + i, 'translation', places, straightKeys(places, 3, (bound / metresPerUnit) * (1 / scale)));
        channel(first + i, 'rotation', turns, straightKeys(turns, 4, bound / BESIDE));
      });
    }
  });
}

interface RootAtRest {
  readonly rest: { readonly turn: readonly number[]; readonly at: readonly number[] };
  readonly scale: number;
  readonly turn: Quat;
  readonly metresPerUnit: number;
}

/** A place and a turn in the root's space of the core, under the root's node of the file. */
function put(
  places: Float32Array,
  turns: Float32Array,
  f: number,
  { rest, scale, turn, metresPerUnit }: RootAtRest,
  place: ArrayLike<number>,
  own: ArrayLike<number>,
): void {
  const toFile = [-turn[0], -turn[1], -turn[2], turn[3]];
  const back = [-rest.turn[0], -rest.turn[1], -rest.turn[2], rest.turn[3]];
  const p = [0, 0, 0];
  rotate(p, 0, toFile, 0, place, 0);
  for (let k = 0; k < 3; k++) p[k] = p[k] / metresPerUnit - rest.at[k];
  rotate(p, 0, back, 0, p, 0);
  for (let k = 0; k < 3; k++) places[f * 3 + k] = p[k] / scale;
  const q = [0, 0, 0, 1];
  multiply(q, 0, toFile, 0, own, 0);
  multiply(turns, f * 4, back, 0, q, 0);
}

/** Frames at which keys that are joined straight stay within a bound of what is between them; the first and the last are always there. */
function straightKeys(values: Float32Array, size: 3 | 4, bound: number): number[] {
  const frames = values.length / size;
  const kept = [0];
  const [a, b] = [Array<number>(size).fill(0), Array<number>(size).fill(0)];
  const isNear = (from: number, to: number): boolean => {
    for (let f = from + 1; f < to; f++) {
      const u = (f - from) / (to - from);
      for (let k = 0; k < size; k++) {
        a[k] = values[from * size + k] * (1 - u) + values[to * size + k] * u;
        b[k] = values[f * size + k];
      }
      const norm = Math.hypot(...a);
      const off =
        size === 3
          ? Math.hypot(...a.map((v, k) => v - b[k]))
          : angleBetween(
              a.map((v) => v / norm),
              0,
              b,
              0,
            );
      if (off > bound) return false;
    }
    return true;
  };
  while (kept[kept.length - 1] < frames - 1) {
    const from = kept[kept.length - 1];
    // Steps are doubled while they hold, then halved back to the longest that does.
    let reach = 1;
    while (from + reach * 2 < frames && isNear(from, from + reach * 2)) reach *= 2;
    for (let step = reach; step >= 1; step = Math.floor(step / 2))
      if (from + reach + step < frames && isNear(from, from + reach + step)) reach += step;
    kept.push(Math.min(frames - 1, from + reach));
  }
  return kept;
}
