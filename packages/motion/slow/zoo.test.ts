import { zooTable, type ZooFigures } from '../../../benchmarks/zoo';

// Every law and figure of the core on every skeleton of the zoo: one walk of the suit, known to the millimetre, on sixty-four skeletons.
let table: ZooFigures[] = [];
beforeAll(async () => {
  table = await zooTable();
});

/** Members for which a figure is out of bounds, with the figure: none. */
const out = (figure: keyof ZooFigures, isIn: (value: number, row: ZooFigures) => boolean) =>
  table.flatMap((row) => {
    const value = row[figure];
    return typeof value !== 'number' || isIn(value, row) ? [] : [`${row.member}: ${figure} ${value}`];
  });

test('parts of the body, size and places come back from a file', () => {
  expect(table.length).toBeGreaterThanOrEqual(60);
  expect(out('wrongParts', (v) => v === 0)).toEqual([]);
  expect(out('scale', (v) => Math.abs(v - 1) < 1e-6)).toEqual([]);
  expect(out('readBackMm', (v) => v < 0.02)).toEqual([]);
});

test('contacts, floor and headings are what they are on the suit', () => {
  // Where legs end in the ankle nobody sees the toe leave.
  expect(out('contactsF1', (v, { member }) => v > (member === 'no feet' ? 0.94 : 0.97))).toEqual([]);
  expect(out('floorCm', (v) => v < 1.2)).toEqual([]);
  expect(out('headingDeg', (v) => v < 1)).toEqual([]);
});

test('mirrored it is what the mirrored performer does', () => {
  expect(out('mirrorMm', (v) => v < 0.01)).toEqual([]);
});

test('the best loop is whole strides, closes without a tick, holds its feet and stays like what was captured', () => {
  expect(out('strides', (v) => Number.isInteger(v) && v >= 1)).toEqual([]);
  expect(out('tick', (v) => v <= 1.2)).toEqual([]);
  expect(out('slideCm', (v) => v < 0.2)).toEqual([]);
  expect(out('kink', (v) => v < 1.25)).toEqual([]);
  expect(out('likenessCm', (v) => v < 6)).toEqual([]);
});

test('every step works on every skeleton, in place as on the way', () => {
  expect(table.flatMap(({ member, failures }) => failures.map((failure) => `${member}: ${failure}`))).toEqual([]);
  expect(out('stepsSlideCm', (v) => v < 0.25)).toEqual([]);
  expect(out('inPlaceCm', (v) => v < 3)).toEqual([]);
});

test('fitted both ways: feet planted on the ground, knees and elbows as they were, the suit on the skeleton what the skeleton does', () => {
  expect(out('fitSlideCm', (v) => v < 0.5)).toEqual([]);
  expect(out('fitHoverCm', (v) => v < 1.3)).toEqual([]);
  expect(out('fitKink', (v) => v < 1.3)).toEqual([]);
  expect(out('fitFromSuitCm', (v) => v < 0.6)).toEqual([]);
});
