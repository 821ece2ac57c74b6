/** Hands things on to one who is slow to take them. */
export interface Gathering<T> {
  /** The first is handed on at once; those that come soon after it, together, when the time is over. */
  add(one: T): void;
  /** What waits is handed on now. */
  flush(): void;
}

/**
 * Gathers what comes quickly, one after another, so that it is handed on no more often than every so many milliseconds; nothing is lost, and the
 * order stays.
 */
export function gathering<T>(handOn: (all: readonly T[]) => void, ms: number): Gathering<T> {
  let waiting: T[] = [];
  let timer: ReturnType<typeof setTimeout> | null = null;
  const flush = () => {
    if (waiting.length === 0) return;
    const all = waiting;
    waiting = [];
    handOn(all);
  };
  const rest = () => {
    timer = setTimeout(() => {
      timer = null;
      if (waiting.length === 0) return;
      flush();
      rest();
    }, ms);
  };
  return {
    add: (one) => {
      waiting.push(one);
      if (timer) return;
      flush();
      rest();
    },
    flush,
  };
}
