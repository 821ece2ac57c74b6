/** What a joint of the target's chain takes its turn from: part of the way from one of the source's to another; −1 is what lies below the chain. */
export interface Share {
  readonly a: number;
  readonly b: number;
  readonly u: number;
}

/**
 * Spreads the turns of one chain over another with more or fewer joints. Joints are matched one to one by where they are along the chain's
 * length, as many as the shorter chain has, the ends with the ends; those in between take part of the turns of their matched neighbours, by
 * length. Matched joints are the same both ways, so that there and back changes none of them.
 *
 * @param source where the joints of the source are along their chain, 0 to 1, growing
 * @param target the same of the target's
 * @returns for each joint of the target indices into the source's chain
 *
 * @example
 * matchChain([1, 1], [1, 1]).length; // 2
 */
export function matchChain(source: readonly number[], target: readonly number[]): Share[] {
  if (source.length === 0) return target.map((u) => ({ a: -1, b: 0, u }));
  const pairs = source.length <= target.length ? matched(source, target) : matched(target, source).map(([t, s]) => [s, t] as const);
  return target.map((where, t) => {
    const exact = pairs.find(([, other]) => other === t);
    if (exact) return { a: exact[0], b: exact[0], u: 0 };
    const before = pairs.filter(([, other]) => other < t).at(-1);
    const after = pairs.find(([, other]) => other > t);
    if (!after) return { a: before?.[0] ?? 0, b: before?.[0] ?? 0, u: 0 };
    const from = before ? target[before[1]] : 0;
    const to = target[after[1]];
    return { a: before?.[0] ?? -1, b: after[0], u: to > from ? (where - from) / (to - from) : 0 };
  });
}

/** For each joint of the shorter chain its own one of the longer, in order, the last with the last, so that they are the least apart. */
function matched(short: readonly number[], long: readonly number[]): (readonly [short: number, long: number])[] {
  const n = short.length;
  const m = long.length;
  // cost[i][k]: the least that the first i joints are apart when the last of them has one before k.
  const cost = Array.from({ length: n + 1 }, (_, i) => new Float64Array(m + 1).fill(i === 0 ? 0 : Infinity));
  for (let i = 1; i <= n; i++) {
    for (let k = 1; k <= m; k++) {
      const isEnd = i === n && k !== m;
      const here = isEnd ? Infinity : cost[i - 1][k - 1] + Math.abs(short[i - 1] - long[k - 1]);
      cost[i][k] = Math.min(cost[i][k - 1], here);
    }
  }
  const out: (readonly [number, number])[] = [];
  for (let i = n, k = m; i > 0; k--) {
    if (cost[i][k] === cost[i][k - 1]) continue;
    out.unshift([i - 1, k - 1]);
    i--;
  }
  return out;
}
