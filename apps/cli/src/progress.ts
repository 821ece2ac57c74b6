/** Milliseconds between two lines. */
const EVERY = 1000;

/** Says on standard error how far something is, once a second at the most. */
export function tellProgress(): (share: number, says: string) => void {
  let last = Date.now();
  return (share, says) => {
    if (Date.now() - last < EVERY) return;
    last = Date.now();
    process.stderr.write(`lantern: ${String(Math.round(share * 100)).padStart(3)} %  ${says}\n`);
  };
}
