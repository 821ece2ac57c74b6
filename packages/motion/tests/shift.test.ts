import { capture, type ScriptName } from '@lantern/capture';
import {
  buildJoin,
  cutClip,
  forwardKinematics,
  joinFigures,
  joinSchema,
  layPiece,
  levelAt,
  popIn,
  shiftPiece,
  shiftSchema,
  type LaidPiece,
  type Motion,
  type Shift,
} from '@lantern/motion';
import { followPoint } from '../src/model/fixed-point';
import { gaitOf } from './made';

const SIDES = ['left', 'right'] as const;

const motions = new Map<string, Motion>();
function captured(script: ScriptName): Motion {
  const found = motions.get(script) ?? capture(script, { seconds: 8, seed: 141 }).motion;
  motions.set(script, found);
  return found;
}
const pieceOf = (script: ScriptName): LaidPiece => {
  const motion = captured(script);
  return layPiece(cutClip(motion, 20, motion.frames - 40), { times: 1 });
};
const shift = (change: Partial<Shift> & { at: number }): Shift => shiftSchema.parse(change);

/** Heels, balls and tips of a motion whose soles are those of another. */
function soles(like: Motion, motion: Motion) {
  const { points } = gaitOf(like).soles;
  if (!points) throw new Error('there are no soles');
  const globals = forwardKinematics(motion);
  const of = (side: 'left' | 'right') => (['heel', 'ball', 'tip'] as const).map((at) => followPoint(globals, points[side][at]));
  return { left: of('left'), right: of('right') };
}

/** The farthest that a planted foot goes in a contact by which it did not go before, metres. */
function slidMore(piece: LaidPiece, after: LaidPiece): number {
  const [before, now] = [soles(piece.motion, piece.motion), soles(piece.motion, after.motion)];
  let most = 0;
  for (const side of SIDES)
    for (const { from, to } of piece.contacts[side])
      for (let point = 0; point < 3; point++) {
        const lengths = (track: Float32Array) => Math.hypot(...[0, 1, 2].map((k) => track[(to - 1) * 3 + k] - track[from * 3 + k]));
        most = Math.max(most, Math.abs(lengths(now[side][point]) - lengths(before[side][point])));
      }
  return most;
}

const WAYS = [{ raise: 0.2 }, { raise: -0.2 }, { ahead: 0.3, left: -0.2 }, { turnDeg: 50 }] as const;

test.each(['walk', 'jog', 'hop', 'turn', 'hush', 'backwards'] as const)(
  'a shift of a %s: before it nothing has changed, planted feet stay, all behind it has gone as a whole, nothing pops',
  (script) => {
    const piece = pieceOf(script);
    const J = piece.motion.skeleton.joints.length;
    const own = popIn(piece.motion, [20, piece.motion.frames - 20], []);
    for (const way of WAYS)
      for (const at of [100, 177]) {
        const after = shiftPiece(piece, shift({ at, ...way }));
        const untouched = at + piece.start - 90;
        expect(after.motion.rotations.slice(0, untouched * J * 4)).toEqual(piece.motion.rotations.slice(0, untouched * J * 4));
        expect(slidMore(piece, after)).toBeLessThan(0.001);
        const end = piece.motion.frames - 2;
        const rise = after.motion.rootPositions[end * 3 + 1] - piece.motion.rootPositions[end * 3 + 1];
        expect(rise).toBeCloseTo('raise' in way ? way.raise : 0, 4);
        const gone = [0, 2].map((k) => after.motion.rootPositions[end * 3 + k] - piece.motion.rootPositions[end * 3 + k]);
        if ('ahead' in way) expect(Math.hypot(...gone)).toBeCloseTo(Math.hypot(way.ahead, way.left), 3);
        expect(popIn(after.motion, [20, end - 18], []).cm).toBeLessThan(own.cm + 1);
      }
  },
);

test('a hop onto a box 20 cm high: the feet stand on it, and none goes through its edge', () => {
  const piece = pieceOf('hop');
  const { left, right } = piece.contacts;
  const lands = left.find(({ from }) => from > 150)?.from ?? 0;
  const leaves = left.filter(({ to }) => to <= lands).at(-1)?.to ?? 0;
  const after = shiftPiece(piece, shift({ at: leaves - piece.start - 8, raise: 0.2 }));
  const feet = soles(piece.motion, after.motion);
  const points = SIDES.flatMap((side) => feet[side]);
  const { floor } = gaitOf(piece.motion).soles;
  const ahead = (frame: number) => [0, 2].map((k) => piece.motion.rootPositions[frame * 3 + k]);
  const [x, z] = ahead(lands).map((v, k) => v - ahead(leaves)[k]);
  const along = (point: Float32Array, f: number) => (point[f * 3] * x + point[f * 3 + 2] * z) / Math.hypot(x, z);
  const toe = Math.max(...points.map((point) => along(point, leaves - 2)));
  const heel = Math.min(...points.map((point) => along(point, lands + 4)));
  // The box begins where there is most room for it: two fifths of the way from the toes that leave to the heels that land are free of feet.
  let nearest = -Infinity;
  for (const point of points)
    for (let f = leaves - 10; f <= lands; f++) if (point[f * 3 + 1] - floor < 0.195) nearest = Math.max(nearest, along(point, f));
  expect((heel - nearest) / (heel - toe)).toBeGreaterThan(0.4);
  const stands = right.find(({ from }) => from > 150)?.from ?? 0;
  const lowest = Math.min(...points.map((point) => point[(stands + 8) * 3 + 1]));
  expect(lowest - floor).toBeGreaterThan(0.195);
  expect(lowest - floor).toBeLessThan(0.21);
});

test('in a join, the pieces behind go along, and what is under the feet is not sunk into', () => {
  const hop = captured('hop');
  const joined = (raise: number) =>
    buildJoin(
      joinSchema.parse({
        name: 'onto the box',
        pieces: [
          { take: 'hop', from: 20, to: 200, shifts: [{ at: 70, raise }] },
          { take: 'hop', from: 60, to: 240, into: { frames: 14 } },
        ],
      }),
      { clip: () => null, take: () => hop },
    );
  const [flat, up] = [joined(0), joined(0.25)];
  const last = (flat.motion.frames - 1) * 3 + 1;
  expect(up.motion.rootPositions[last] - flat.motion.rootPositions[last]).toBeCloseTo(0.25, 3);
  expect(up.spans[1]).toEqual(flat.spans[1]);
  expect(up.levels).toHaveLength(1);
  expect([0, up.motion.frames].map((f) => levelAt(up.levels, f))).toEqual([0, 0.25]);
  expect(joinFigures(up)[0].sinkCm).toBeLessThan(joinFigures(flat)[0].sinkCm + 0.3);
});

test('who stands to the end stays where he is: a shift waits for a foot to come off the floor', () => {
  const motion = captured('idle');
  const piece = layPiece(cutClip(motion, 0, motion.frames - 1), { times: 1 });
  const at = Math.max(piece.contacts.left.at(-1)?.from ?? 0, piece.contacts.right.at(-1)?.from ?? 0) + 5;
  expect(shiftPiece(piece, shift({ at, raise: 0.2 }))).toBe(piece);
  expect(shiftPiece(piece, shift({ at: motion.frames + 5, raise: 0.2 }))).toBe(piece);
});
