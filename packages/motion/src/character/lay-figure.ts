import { normalsOf } from './normals';
import type { Vec3 } from '../math/quat';
import { surfaceNets, type Field, type Surface } from '../math/surface-nets';
import { minus, norm, vecAt } from '../math/vec';
import type { Body } from '../model/body';
import type { Skeleton } from '../model/skeleton';
import { bodyMesh, type BodyMesh, type Buffers } from './body-mesh';
import { standingPose, type StandingPose } from './canonical-pose';
import { fingersOfHands, layFingers } from './lay-fingers';
import { layPieces, type Piece } from './lay-pieces';

/** Fineness of the mesh, and how softly pieces run into one another, metres for a stature of 1.78. */
const CELL = 0.018;
const SOFT = 0.02;
/** How far the influence of a joint's neighbour reaches, for a body that bends softly. */
const REACH = 0.03;
/** Two soft tones of wood, linear red, green and blue: trunk, head, hands and feet in the one, limbs in the other. */
const TONES: readonly Vec3[] = [
  [0.71, 0.47, 0.225],
  [0.5, 0.28, 0.115],
];

/**
 * A lay figure made from a skeleton: one smooth mesh with a chest, a pelvis, tapered limbs, a head with a face side, hands with the fingers that
 * there are joints for, and feet with heel and toe, skinned to the joints. It is made on the body as it stands, so that any rest pose will do; of
 * a skeleton that is no person's, the plain body.
 *
 * @param skeleton in metres
 * @example
 * const { positions, skin } = layFigure(motion.skeleton, bodyOf(motion));
 */
export function layFigure(skeleton: Skeleton, body: Body | null): BodyMesh {
  if (!body) return bodyMesh(skeleton, body);
  const pose = standingPose(skeleton, body);
  const at = (j: number): Vec3 => vecAt(pose.positions, j);
  const leg = norm(minus(at(body.legs.left.hip), at(body.legs.left.knee))) + norm(minus(at(body.legs.left.knee), at(body.legs.left.ankle)));
  const scale = leg / 0.491 / 1.78;
  if (!(scale > 0.05)) return bodyMesh(skeleton, body);
  const hands = fingersOfHands(skeleton, body, pose, scale);
  const pieces = layPieces(skeleton, body, hands, pose, scale);
  return skinned(surfaceNets(fieldOf(pieces, scale)), pieces, layFingers(skeleton, hands, pose, scale), pose, scale);
}

/** Pieces that run into one another softly: the sum of what each of them adds near it. */
function fieldOf(pieces: readonly Piece[], scale: number): Field {
  const soft = SOFT * scale;
  const cell = CELL * scale;
  // What lies further off than this adds nothing that is seen.
  const far = 5 * soft;
  const { low, high } = boxOf(pieces, far);
  const count = (k: number) => Math.ceil((high[k] - low[k]) / cell) + 1;
  const size = [count(0), count(1), count(2)] as const;
  const sums = new Float32Array(size[0] * size[1] * size[2]);
  for (const piece of pieces) {
    const box = boxOf([piece], far);
    const [from, to] = [box.low, box.high].map((end) =>
      end.map((v, k) => Math.min(size[k] - 1, Math.max(0, Math.round((v - low[k]) / cell)))),
    );
    for (let z = from[2]; z <= to[2]; z++)
      for (let y = from[1]; y <= to[1]; y++)
        for (let x = from[0], i = x + size[0] * (y + size[1] * z); x <= to[0]; x++, i++)
          sums[i] += Math.exp(-distance(piece, low[0] + x * cell, low[1] + y * cell, low[2] + z * cell) / soft);
  }
  return { values: sums.map((sum) => (sum > 0 ? -soft * Math.log(sum) : far)), size, low, cell };
}

/** About how far a place is from a piece, below 0 inside of it. Called some hundred thousand times a figure: nothing is allocated. */
function distance({ from, to, thick, deep, wide }: Piece, x: number, y: number, z: number): number {
  const [dx, dy, dz] = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const [px, py, pz] = [x - from[0], y - from[1], z - from[2]];
  const length = dx * dx + dy * dy + dz * dz;
  const t = length > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy + pz * dz) / length)) : 0;
  const across = wide ? wide[0] + (wide[1] - wide[0]) * t : 1;
  const [ex, ey, ez] = [(px - t * dx) / across, py - t * dy, (pz - t * dz) / deep];
  return Math.sqrt(ex * ex + ey * ey + ez * ez) - (thick[0] + (thick[1] - thick[0]) * t);
}

function boxOf(pieces: readonly Piece[], margin: number): { low: [number, number, number]; high: [number, number, number] } {
  const low: [number, number, number] = [Infinity, Infinity, Infinity];
  const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (const { from, to, thick, deep, wide } of pieces)
    for (const end of [from, to])
      for (let k = 0; k < 3; k++) {
        const reach = Math.max(...thick) * Math.max(1, deep, ...(wide ?? [])) + margin;
        low[k] = Math.min(low[k], end[k] - reach);
        high[k] = Math.max(high[k], end[k] + reach);
      }
  return { low, high };
}

/** The surface with its normals, each vertex shared by the joints whose pieces are nearest; and the sticks beside it, each on its own joint. */
function skinned(surface: Surface, pieces: readonly Piece[], sticks: Buffers, pose: StandingPose, scale: number): BodyMesh {
  const own = surface.positions.length / 3;
  const count = own + sticks.joints.length;
  const joints = new Uint16Array(count * 4);
  const weights = new Float32Array(count * 4);
  const colours = new Float32Array(count * 3);
  const main = new Uint16Array(count);
  for (let v = 0; v < own; v++) {
    const { shares, tone } = sharesOf(pieces, vecAt(surface.positions, v), REACH * scale);
    const sum = shares.reduce((total, { weight }) => total + weight, 0);
    shares.forEach(({ joint, weight }, k) => {
      joints[v * 4 + k] = joint;
      weights[v * 4 + k] = weight / sum;
    });
    main[v] = shares[0].joint;
    colours.set(TONES[tone], v * 3);
  }
  sticks.joints.forEach((joint, k) => {
    const v = own + k;
    joints[v * 4] = joint;
    weights[v * 4] = 1;
    main[v] = joint;
    colours.set(TONES[0], v * 3);
  });
  const { positions, indices } = surface;
  const faces = [...indices, ...sticks.indices.map((v) => v + own)];
  return {
    positions: Float32Array.from([...positions, ...sticks.positions]),
    normals: Float32Array.from([...normalsOf(positions, indices), ...sticks.normals]),
    indices: count > 65535 ? Uint32Array.from(faces) : Uint16Array.from(faces),
    joints: main,
    skin: { joints, weights, colours, bindPositions: pose.positions, bindRotations: pose.rotations },
  };
}

/** The joints that carry a place, the strongest first, four at the most, and the tone of the piece that is nearest. */
function sharesOf(pieces: readonly Piece[], [x, y, z]: Vec3, reach: number) {
  const nearest = new Map<number, number>();
  let [least, tone] = [Infinity, 0];
  for (const piece of pieces) {
    const d = distance(piece, x, y, z);
    if (d < least) [least, tone] = [d, piece.tone];
    nearest.set(piece.joint, Math.min(nearest.get(piece.joint) ?? Infinity, d));
  }
  const shares = [...nearest]
    .map(([joint, d]) => ({ joint, weight: Math.exp(-(((d - least) / reach) ** 2) * 2) }))
    .filter(({ weight }) => weight > 0.02)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 4);
  return { shares, tone };
}
