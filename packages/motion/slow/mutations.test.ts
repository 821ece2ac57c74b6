import { goodFiles, mutate, verdictOf } from '../tests/mutations';

test('thousands of mutations of good files: read as finite numbers, or refused with a sentence and a place, in two seconds each', async () => {
  for (const file of await goodFiles()) {
    const verdicts = new Map<string, number>();
    for (let seed = 1000; seed < 1300; seed++) {
      const verdict = verdictOf(file, mutate(file.bytes, seed));
      verdicts.set(verdict, (verdicts.get(verdict) ?? 0) + 1);
    }
    expect([file.name, [...verdicts.keys()].filter((verdict) => verdict !== 'read' && verdict !== 'refused')]).toEqual([file.name, []]);
    // Mutations that all pass, or all fail, would show nothing.
    expect(verdicts.get('refused')).toBeGreaterThan(20);
  }
});
