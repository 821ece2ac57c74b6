import { capture } from '@lantern/capture';
import {
  cutClip,
  forwardKinematics,
  joiner,
  joinIntoSchema,
  joinPieces,
  joinSchema,
  layPiece,
  pieceAtRate,
  popIn,
  type JoinPiece,
  type LaidPiece,
  type Motion,
  type PlacedPiece,
} from '@lantern/motion';
import fc from 'fast-check';
import { quantile } from '../src/math/statistics';
import { followPoint } from '../src/model/fixed-point';
import { copyMotion } from '../src/model/motion';

const { motion: walk } = capture('walk', { seconds: 6, seed: 21, faults: 0 });

describe('pops', () => {
  /** The same figure read otherwise: every point followed by itself over all frames, and all differences sorted. */
  function popBySorting(motion: Motion, [from, to]: [number, number], usual: [number, number][]) {
    const globals = forwardKinematics(motion);
    let worst = { cm: 0, frame: from, joint: 0 };
    for (let joint = 0; joint < globals.joints; joint++)
      for (const local of [
        [0, 0, 0],
        [0.1, 0, 0],
        [0, 0.1, 0],
      ] as const) {
        const point = followPoint(globals, { joint, local: [...local] });
        const off = (f: number) =>
          Math.hypot(
            ...[0, 1, 2].map((k) => {
              const at = (frame: number) => point[frame * 3 + k];
              return at(f) - (4 * (at(f - 1) + at(f + 1)) - at(f - 2) - at(f + 2)) / 6;
            }),
          );
        const own = usual.flatMap(([a, b]) => Array.from({ length: b - a }, (_, i) => off(a + i)));
        const least = own.length > 0 ? quantile(own, 0.95) : 0;
        for (let f = from; f < to; f++) {
          const cm = 100 * (off(f) - least);
          if (cm > worst.cm) worst = { cm, frame: f, joint };
        }
      }
    return worst;
  }

  test.each([
    [
      'with what is usual on both sides',
      [100, 120],
      [
        [40, 100],
        [120, 180],
      ],
    ],
    ['with nothing that is usual', [60, 200], []],
  ] as [string, [number, number], [number, number][]][])(
    'are what they are when every point is read by itself, %s',
    (_, stretch, usual) => {
      const [own, other] = [popIn(walk, stretch, usual), popBySorting(walk, stretch, usual)];
      expect(own.cm).toBeCloseTo(other.cm, 3);
      expect([own.frame, own.joint]).toEqual([other.frame, other.joint]);
    },
  );

  test('a joint that jumps for a frame pops by as much as it jumps, and it is named with its frame', () => {
    const jumped = copyMotion(walk);
    jumped.rootPositions[150 * 3 + 1] += 0.03;
    const { cm, frame } = popIn(
      jumped,
      [140, 160],
      [
        [60, 140],
        [160, 240],
      ],
    );
    expect(frame).toBe(150);
    expect(cm).toBeGreaterThan(2.6);
    expect(cm).toBeLessThan(3.2);
    // Elsewhere it is not seen.
    expect(popIn(jumped, [200, 220], [[60, 140]]).cm).toBeCloseTo(popIn(walk, [200, 220], [[60, 140]]).cm, 6);
  });

  test('kinematics that are known already give the same, and motions too short to tell have none', () => {
    const known = forwardKinematics(walk);
    expect(popIn(walk, [100, 120], [[40, 100]], known)).toEqual(popIn(walk, [100, 120], [[40, 100]]));
    expect(popIn(cutClip(walk, 10, 13).motion, [0, 4], []).cm).toBe(0);
  });
});

describe('kinematics', () => {
  test('of a motion whose joints move against their parents leave those of its skeleton as they are', () => {
    const before = forwardKinematics(walk).positions.slice();
    const moved = { ...copyMotion(walk), translations: new Map([[3, new Float32Array(walk.frames * 3).fill(0.5)]]) };
    const other = forwardKinematics(moved).positions;
    expect(Math.abs(other[3 * 3] - before[3 * 3])).toBeGreaterThan(0.01);
    expect(forwardKinematics(walk).positions).toEqual(before);
  });
});

describe('joined piece by piece', () => {
  const cut = (from: number, to: number): LaidPiece => layPiece(cutClip(walk, from, to), { times: 1 });
  const into = (change: object = {}) => joinIntoSchema.parse({ frames: 12, ...change });
  const pieces: PlacedPiece[] = [cut(20, 90), cut(60, 150), cut(30, 110)].map((piece) => ({ piece, into: into() }));

  test('a step at a time it comes to the same as at once, and one step joins one piece', () => {
    const { step, join } = joiner();
    expect([1, 2, 3].map(() => step(pieces, 'origin'))).toEqual([false, false, true]);
    const [own, whole] = [join(pieces, 'origin'), joinPieces(pieces, 'origin')];
    expect(own.motion.rotations).toEqual(whole.motion.rotations);
    expect(own.motion.rootPositions).toEqual(whole.motion.rootPositions);
    expect(own.spans).toEqual(whole.spans);
  });

  test('what comes before a change is not joined anew, and what comes behind is', () => {
    const { step, join } = joiner();
    join(pieces, 'origin');
    const changed = pieces.map((own, i) => (i === 2 ? { ...own, into: into({ frames: 20 }) } : own));
    // Two are known: one step joins the third.
    expect(step(changed, 'origin')).toBe(true);
    expect(join(changed, 'origin').motion.rotations).toEqual(joinPieces(changed, 'origin').motion.rotations);
    expect(step(changed, 'captured')).toBe(false);
    // Fewer than before are there already.
    expect(step(pieces.slice(0, 1), 'captured')).toBe(true);
    expect(join(pieces.slice(0, 2), 'captured').spans).toHaveLength(2);
  });
});

describe('a piece at another rate', () => {
  const given = fc.record({
    from: fc.integer({ min: 0, max: 5000 }),
    length: fc.integer({ min: 1, max: 5000 }),
    overlap: fc.integer({ min: 0, max: 300 }),
    at: fc.integer({ min: 0, max: 5000 }),
    over: fc.integer({ min: 1, max: 300 }),
  });
  const pieceOf = ({
    from,
    length,
    overlap,
    at,
    over,
  }: {
    from: number;
    length: number;
    overlap: number;
    at: number;
    over: number;
  }): JoinPiece =>
    joinSchema.parse({
      name: 'round',
      pieces: [
        {
          take: 'quay',
          from,
          to: from + length,
          into: { frames: overlap },
          marks: [{ at, name: 'm' }],
          shifts: [{ at, frames: over, raise: 0.2 }],
        },
      ],
    }).pieces[0];

  test('says the same instants, within half a frame, and is still a piece', () => {
    fc.assert(
      fc.property(given, fc.constantFrom(0.2, 0.25, 0.5, 0.8, 1.2, 2), (own, factor) => {
        const piece = pieceOf(own);
        const next = pieceAtRate(piece, factor);
        expect(joinSchema.safeParse({ name: 'round', pieces: [next] }).success).toBe(true);
        const [from, to] = [next.from ?? 0, next.to ?? 0];
        expect(to).toBeGreaterThan(from);
        expect(Math.abs(from - own.from * factor)).toBeLessThanOrEqual(0.5);
        // A piece that would lie between two frames keeps one, though its end is then later than it was.
        expect(Math.abs(to - (own.from + own.length) * factor)).toBeLessThanOrEqual(to - from > 1 ? 0.5 : 1.5);
        expect(Math.abs(next.into.frames - own.overlap * factor)).toBeLessThanOrEqual(0.5);
        expect(Math.abs(next.marks[0].at - own.at * factor)).toBeLessThanOrEqual(0.5);
        expect(next.shifts[0]).toMatchObject({ raise: 0.2, at: next.marks[0].at });
        expect(next.shifts[0].frames).toBeGreaterThanOrEqual(1);
      }),
    );
  });

  test('twice as fine and back it is what it was; at its own rate nothing is changed; what is left open stays open', () => {
    fc.assert(
      fc.property(given, (own) => {
        const piece = pieceOf(own);
        expect(pieceAtRate(pieceAtRate(piece, 2), 0.5)).toEqual(piece);
        expect(pieceAtRate(piece, 1)).toEqual(piece);
      }),
    );
    const [open] = joinSchema.parse({ name: 'round', pieces: [{ clip: 'stroll', times: 2.5 }] }).pieces;
    expect(pieceAtRate(open, 0.5)).toMatchObject({ clip: 'stroll', times: 2.5, into: { frames: 9 } });
    expect('from' in pieceAtRate(open, 0.5)).toBe(false);
  });
});
