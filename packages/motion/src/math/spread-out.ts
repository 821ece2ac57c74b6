/** For each frame the most of what is asked within a window to both sides of it: smoothed afterwards, it is still about as much as is asked. */
export function spreadOut(asked: Float64Array, window: number): Float64Array {
  return asked.map((_, f) => {
    let most = 0;
    for (let g = Math.max(0, f - window); g <= Math.min(asked.length - 1, f + window); g++) most = Math.max(most, asked[g]);
    return most;
  });
}
