import { capture, type ScriptName } from '@lantern/capture';
import {
  buildJoin,
  cutClip,
  forwardKinematics,
  joinFigures,
  joinSchema,
  layPiece,
  levelAt,
  platforms,
  popIn,
  shiftPiece,
  shiftSchema,
  type LaidPiece,
  type Motion,
  type Shift,
  type StageProp,
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

/** How far ahead of a box's middle a point is. */
const alongBox = ({ x, z, turn }: StageProp, point: Float32Array, f: number): number =>
  (point[f * 3] - x) * Math.sin(turn) + (point[f * 3 + 2] - z) * Math.cos(turn);

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
  for (const seed of [141, 142, 143]) {
    const motion = capture('hop', { seconds: 8, seed }).motion;
    const contacts = gaitOf(motion).contacts.left;
    const lands = contacts.find(({ from }) => from > 150)?.from ?? 0;
    const leaves = contacts.filter(({ to }) => to <= lands).at(-1)?.to ?? 0;
    const joined = buildJoin(
      joinSchema.parse({
        name: 'onto the box',
        start: 'captured',
        pieces: [{ take: 'hop', from: 20, to: motion.frames - 40, shifts: [{ at: leaves - 28, raise: 0.2 }] }],
      }),
      { clip: () => null, take: () => motion },
    );
    const [box] = platforms(joined);
    expect(box.height).toBeCloseTo(0.2, 2);
    const floor = joined.contacts.floorM;
    const feet = soles(motion, joined.motion);
    // Captured soles are not free of the floor either.
    const own = soles(motion, motion);
    const sunk = Math.max(
      0,
      ...SIDES.flatMap((side) => own[side].map((point) => floor - Math.min(...point.filter((_, i) => i % 3 === 1)))),
    );
    expect(sunk).toBeLessThan(0.02);
    const heels = SIDES.map((side) => feet[side][0]).map((point) => alongBox(box, point, lands - 20 + 6));
    expect(Math.min(...heels) + box.depth / 2).toBeGreaterThan(0.05);
    let stands = 0;
    for (const point of SIDES.flatMap((side) => feet[side]))
      for (let f = 0; f < joined.motion.frames; f++) {
        const [x, y, z] = [0, 1, 2].map((k) => point[f * 3 + k]);
        const [dx, dz] = [x - box.x, z - box.z];
        const [aside, along] = [dx * Math.cos(box.turn) - dz * Math.sin(box.turn), dx * Math.sin(box.turn) + dz * Math.cos(box.turn)];
        const isInside = Math.abs(aside) < box.width / 2 && Math.abs(along) < box.depth / 2;
        if (!isInside) continue;
        expect(y - floor).toBeGreaterThan(box.height - sunk - 0.004);
        if (y - floor < box.height + 0.01) stands++;
      }
    expect(stands).toBeGreaterThan(40);
  }
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
