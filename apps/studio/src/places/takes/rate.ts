/** Frames a second with the digits that matter. */
export const rate = (fps: number) => String(Number(fps.toFixed(2)));
