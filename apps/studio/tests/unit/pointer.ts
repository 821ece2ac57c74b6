import { fireEvent } from '@testing-library/react';

/** A pointer on a pixel of the window, its first button down or not. */
export const pointerAt = (clientX: number, buttons: number, more: object = {}) => ({
  ...{ clientX, clientY: 0, buttons, button: 0, pointerId: 1, isPrimary: true },
  ...more,
});

/** Takes hold of something, moves it along in so many steps, and lets it go. */
export function drag(element: Element, from: number, to: number, more: object = {}, steps = 2): void {
  fireEvent.pointerDown(element, pointerAt(from, 1, more));
  for (let k = 1; k <= steps; k++) fireEvent.pointerMove(element, pointerAt(from + ((to - from) * k) / steps, 1, more));
  fireEvent.pointerUp(element, pointerAt(to, 0, more));
}
