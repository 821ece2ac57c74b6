import { scoreFreeFall } from '../../../benchmarks/free-fall';

test('sixty takes of random units and rates, read rightly and wrongly: verdicts right in 58 at least, none confidently wrong', () => {
  const { right, confidentlyWrong, misses } = scoreFreeFall(60, 5001);
  expect([confidentlyWrong, misses.length > 2 ? misses : []]).toEqual([0, []]);
  expect(right).toBeGreaterThanOrEqual(58);
});
