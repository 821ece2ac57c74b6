import type { PlaySkeleton } from '@lantern/drive';

/** Places in the world of all joints of a player's pose, three numbers each: written plainly, apart from the runtime's own. */
export function jointPlaces(
  { parents, offsets, names }: PlaySkeleton,
  { rotations, hips, root }: { rotations: Float32Array; hips: Float64Array; root: Float64Array },
): Float64Array {
  const out = new Float64Array(names.length * 3);
  const turns: number[][] = [];
  const times = ([ax, ay, az, aw]: number[], [bx, by, bz, bw]: number[]) => [
    aw * bx + ax * bw + ay * bz - az * by,
    aw * by - ax * bz + ay * bw + az * bx,
    aw * bz + ax * by - ay * bx + az * bw,
    aw * bw - ax * bx - ay * by - az * bz,
  ];
  const turned = (q: number[], v: number[]) => times(times(q, [...v, 0]), [-q[0], -q[1], -q[2], q[3]]).slice(0, 3);
  const facing = [0, Math.sin(root[2] / 2), 0, Math.cos(root[2] / 2)];
  for (let j = 0; j < names.length; j++) {
    const own = [...rotations.subarray(j * 4, j * 4 + 4)];
    const p = parents[j];
    turns.push(times(p < 0 ? facing : turns[p], own));
    const from = p < 0 ? [root[0], 0, root[1]] : [...out.subarray(p * 3, p * 3 + 3)];
    const off = p < 0 ? turned(facing, [...hips]) : turned(turns[p], [offsets[j * 3], offsets[j * 3 + 1], offsets[j * 3 + 2]]);
    out.set(
      from.map((v, k) => v + off[k]),
      j * 3,
    );
  }
  return out;
}
