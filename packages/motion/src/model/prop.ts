import { z } from 'zod';
import { movePoint, type FloorTransform } from './floor-transform';

const coordinate = z.number().min(-1e4).max(1e4);
const size = z.number().min(0.01).max(50);

export const PROP_KINDS = ['box', 'step', 'rope', 'rail', 'seat', 'wall', 'pole'] as const;

/**
 * A thing on the stage to judge against and to be touched: metres and radians, its middle on the floor at x, z. A rope and a rail are a line of
 * `width` at `height`, as thick as `depth`; all others are blocks that stand on the floor.
 */
export const propSchema = z.object({
  id: z.string().min(1).max(40),
  kind: z.enum(PROP_KINDS),
  x: coordinate,
  z: coordinate,
  turn: z.number().min(-100).max(100),
  width: size,
  height: size,
  depth: size,
});
export type StageProp = z.infer<typeof propSchema>;

/**
 * A prop that stands elsewhere on the floor.
 *
 * @example
 * const box = { id: 'b', kind: 'box', x: 1, z: 0, turn: 0, width: 1, height: 1, depth: 1 };
 * movedProp(box, { turn: 0, x: 2, z: 0 }).x; // 3
 */
export function movedProp(prop: StageProp, transform: FloorTransform): StageProp {
  const at = [prop.x, 0, prop.z];
  movePoint(at, 0, transform, at, 0);
  return { ...prop, x: at[0], z: at[2], turn: prop.turn + transform.turn };
}

/**
 * The level of the ground under a place, metres: the top of the highest block there that is not above it, or the floor's 0.
 *
 * @example
 * const box = { id: 'b', kind: 'box', x: 1, z: 0, turn: 0, width: 1, height: 0.4, depth: 1 };
 * [groundUnder([box], [1.2, 0.5, 0]), groundUnder([box], [1.2, 0.1, 0]), groundUnder([box], [3, 0.5, 0])]; // [0.4, 0, 0]
 */
export function groundUnder(props: readonly StageProp[], [x, y, z]: readonly [number, number, number]): number {
  let level = 0;
  for (const { kind, x: px, z: pz, turn, width, height, depth } of props) {
    if (kind === 'rope' || kind === 'rail' || height > y || height <= level) continue;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const across = c * (x - px) - s * (z - pz);
    const along = s * (x - px) + c * (z - pz);
    if (Math.abs(across) <= width / 2 && Math.abs(along) <= depth / 2) level = height;
  }
  return level;
}
