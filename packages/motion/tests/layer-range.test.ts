import { layerSchema, partOfLayer, withoutRange, withRangeMoved, type Layer } from '@lantern/motion';
import fc from 'fast-check';

const frame = fc.integer({ min: -20, max: 200 });
const layer: fc.Arbitrary<Layer> = fc
  .record({
    keys: fc.uniqueArray(frame, { maxLength: 8 }),
    touches: fc.array(fc.tuple(frame, fc.nat(40)), { maxLength: 4 }),
    weight: fc.uniqueArray(frame, { minLength: 1, maxLength: 5 }),
  })
  .map(({ keys, touches, weight }) =>
    layerSchema.parse({
      name: 'nod',
      keys: keys.sort((a, b) => a - b).map((own) => ({ frame: own, joint: 'Head', turn: [own, 0, 0] })),
      touches: touches.map(([from, long]) => ({ limb: 'left hand', from, to: from + long, target: { to: 'floor' } })),
      weight: weight.sort((a, b) => a - b).map((own) => ({ frame: own, value: 0.5 })),
    }),
  );
const range = fc.tuple(frame, fc.nat(80)).map(([from, long]) => ({ from, to: from + long }));
const counts = ({ keys, touches }: Layer) => keys.length + touches.length;

test('what is in a range and what is not are the whole layer, and neither is in the other', () => {
  fc.assert(
    fc.property(layer, range, (own, part) => {
      expect(counts(partOfLayer(own, part)) + counts(withoutRange(own, part))).toBe(counts(own));
      expect(counts(withoutRange(partOfLayer(own, part), part))).toBe(0);
    }),
  );
});

test('a range moved away from all else and back again is what it was', () => {
  fc.assert(
    fc.property(layer, range, (own, part) => {
      const away = withRangeMoved(own, part, 1000);
      const back = withRangeMoved(away, { from: part.from + 1000, to: part.to + 1000 }, -1000);
      expect(back.keys).toEqual(own.keys);
      expect(back.weight).toEqual(own.weight);
      expect(counts(back)).toBe(counts(own));
      // Kept as well, it is there twice.
      expect(counts(withRangeMoved(own, part, 1000, true))).toBe(counts(own) + counts(partOfLayer(own, part)));
    }),
  );
});

test('keys that a range comes upon are replaced; a weight whose last key goes is what it was there', () => {
  const own = layerSchema.parse({
    name: 'nod',
    keys: [5, 12].map((at) => ({ frame: at, joint: 'Head', turn: [at, 0, 0] })),
    weight: [{ frame: 5, value: 0.4 }],
  });
  expect(withRangeMoved(own, { from: 4, to: 6 }, 7).keys).toMatchObject([{ frame: 12, turn: [5, 0, 0] }]);
  expect(withoutRange(own, { from: 0, to: 9 }).weight).toBe(0.4);
});
