/** Makes what is asked for one after the other, in the order in which it was asked: a save must not overtake the one before it. */
export function inOrder(): <T>(run: () => Promise<T>) => Promise<T> {
  let last: Promise<unknown> = Promise.resolve();
  return (run) => {
    const next = last.then(run, run);
    last = next.catch(() => undefined);
    return next;
  };
}
