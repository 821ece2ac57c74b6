/** To a hundredth of a millimetre, or of a millisecond; never a zero with a sign. */
export const tidy = (value: number): number => Number(value.toFixed(5)) + 0;
