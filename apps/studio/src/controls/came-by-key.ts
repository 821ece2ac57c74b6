let byKey = false;

if (typeof document !== 'undefined') {
  document.addEventListener('pointerdown', () => (byKey = false), true);
  document.addEventListener('keydown', ({ key }) => (byKey ||= key === 'Tab'), true);
}

/**
 * Whether the focus was last led by the Tab key rather than by the pointer. Not `:focus-visible`: that matches from the first key pressed on a
 * control that was clicked, and then Space would press the control again instead of playing.
 */
export const cameByKey = (): boolean => byKey;
