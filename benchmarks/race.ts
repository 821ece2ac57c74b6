/** Median of some runs after one to warm up, milliseconds. */
export function time(run: () => unknown, runs = 7): number {
  run();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[runs >> 1];
}

/** Two ways, run by turns so that whatever else the machine does falls on both; medians, milliseconds. */
export async function race(ours: () => unknown, theirs: () => unknown, runs = 9): Promise<[number, number]> {
  await ours();
  await theirs();
  const times: [number[], number[]] = [[], []];
  const took = async (run: () => unknown) => {
    const start = performance.now();
    await run();
    return performance.now() - start;
  };
  for (let i = 0; i < runs; i++) {
    times[0].push(await took(ours));
    times[1].push(await took(theirs));
  }
  return [times[0].sort((a, b) => a - b)[runs >> 1], times[1].sort((a, b) => a - b)[runs >> 1]];
}
