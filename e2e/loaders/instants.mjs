/** Twenty instants spread over a clip, off its frames as well as on them. */
export const instants = (duration) => Array.from({ length: 20 }, (_, i) => (duration * i) / 19.5);
