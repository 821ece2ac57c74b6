import { figureChanges, type ComparedFigures } from '../src/measure/figure-changes';

const good: ComparedFigures = { seconds: 1.1, speedMps: 1.4, tick: 0.5, slideCm: 0.05, sinkCm: 0.2, homeCm: 0.4 };

test.each([
  ['seconds', 1 / 60, 2 / 60],
  ['speedMps', 0.031, 0.04],
  ['tick', 0.76, 0.9],
  ['slideCm', 0.21, 0.3],
  ['sinkCm', 0.25, 0.4],
  ['homeCm', 0.06, 0.2],
] as const)('of %s what solves differ by anyway is no change, up or down; more than that is', (figure, anyway, more) => {
  for (const by of [anyway, -anyway]) expect(figureChanges(good, { ...good, [figure]: (good[figure] ?? 0) + by })).toEqual([]);
  for (const by of [more, -more]) {
    const after = (good[figure] ?? 0) + by;
    expect(figureChanges(good, { ...good, [figure]: after })).toEqual([{ figure, before: good[figure], after }]);
  }
});

test('a figure that one of them does not have is not compared', () => {
  expect(figureChanges(good, { ...good, slideCm: null, homeCm: undefined })).toEqual([]);
  expect(figureChanges({}, good)).toEqual([]);
});
