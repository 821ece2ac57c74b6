/** A rectangle in the picture. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

type Point = readonly [number, number];

/** A channel from one state to another: a cubic, and where and how its boat lies. */
export interface ChannelWay {
  readonly path: string;
  readonly start: Point;
  /** A point of it, from 0 at its beginning to 1 at its end. */
  readonly along: (share: number) => Point;
  readonly boat: Point;
  /** Degrees clockwise from to the right. */
  readonly boatTurn: number;
}

/** Pixels to the side of the straight way: channels there and back lie beside each other. */
const ASIDE = 30;

/**
 * @param lane further lanes of the same two states in the same direction, from 0
 */
export function channelWay(from: Box, to: Box, lane = 0): ChannelWay {
  const [a, b] = [centre(from), centre(to)];
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length = Math.hypot(dx, dy) || 1;
  const aside = ASIDE + lane * 34;
  const side: Point = [(-dy / length) * aside, (dx / length) * aside];
  const start = border(from, [a[0] + side[0], a[1] + side[1]], [b[0] + side[0], b[1] + side[1]]);
  const end = border(to, [b[0] + side[0], b[1] + side[1]], [a[0] + side[0], a[1] + side[1]]);
  const reach = Math.max(24, Math.hypot(end.at[0] - start.at[0], end.at[1] - start.at[1]) * 0.38);
  const c1: Point = [start.at[0] + start.out[0] * reach, start.at[1] + start.out[1] * reach];
  const c2: Point = [end.at[0] + end.out[0] * reach, end.at[1] + end.out[1] * reach];
  const at = (t: number): Point => {
    const u = 1 - t;
    return [0, 1].map((k) => u ** 3 * start.at[k] + 3 * u * u * t * c1[k] + 3 * u * t * t * c2[k] + t ** 3 * end.at[k]) as unknown as Point;
  };
  const chord = Math.hypot(end.at[0] - start.at[0], end.at[1] - start.at[1]);
  const near = Math.max(0.5, 1 - 17 / Math.max(34, chord));
  const [boat, ahead] = [at(near), at(Math.min(1, near + 0.04))];
  return {
    path: `M${start.at} C${c1} ${c2} ${end.at}`,
    start: start.at,
    along: at,
    boat,
    boatTurn: (Math.atan2(ahead[1] - boat[1], ahead[0] - boat[0]) * 180) / Math.PI,
  };
}

const centre = ({ x, y, width, height }: Box): Point => [x + width / 2, y + height / 2];

/** Where a way from inside of a box leaves it, and straight out of which side. */
function border({ x, y, width, height }: Box, inside: Point, target: Point): { at: Point; out: Point } {
  const from: Point = [Math.max(x + 6, Math.min(x + width - 6, inside[0])), Math.max(y + 6, Math.min(y + height - 6, inside[1]))];
  const [dx, dy] = [target[0] - from[0], target[1] - from[1]];
  const tx = dx > 0 ? (x + width - from[0]) / dx : dx < 0 ? (x - from[0]) / dx : Infinity;
  const ty = dy > 0 ? (y + height - from[1]) / dy : dy < 0 ? (y - from[1]) / dy : Infinity;
  const t = Math.min(tx, ty);
  if (!Number.isFinite(t)) return { at: from, out: [1, 0] };
  return { at: [from[0] + dx * t, from[1] + dy * t], out: tx < ty ? [Math.sign(dx), 0] : [0, Math.sign(dy)] };
}
