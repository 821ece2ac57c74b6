import { useThree, type ThreeEvent } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import { useCanvasLabel } from './use-canvas-label';

type PointerOn = ThreeEvent<PointerEvent>;

interface Acts<State> {
  /** What is kept while it is held; null where it cannot be taken hold of. */
  readonly begin: (event: PointerOn) => State | null;
  /** @returns the state from now on, and what is said beside the pointer; null where nothing is to be done */
  readonly move: (state: State, event: PointerOn) => { readonly state: State; readonly says: string } | null;
  readonly end: (state: State) => void;
  /** Whether the pointer is on it. */
  readonly onHover: (isOn: boolean) => void;
}

/** Something on the stage that is taken hold of with the pointer and dragged, while the camera holds still: what to give its mesh. */
export function useHold<State>({ begin, move, end, onHover }: Acts<State>) {
  const invalidate = useThree((state) => state.invalidate);
  const canvas = useThree((state) => state.gl.domElement);
  const controls = useThree((state) => state.controls) as { enabled: boolean } | null;
  const held = useRef<State | null>(null);
  const label = useCanvasLabel(canvas);
  useEffect(() => () => onHover(false), [onHover]);
  useEffect(() => invalidate(), [invalidate]);
  const letGo = () => {
    const state = held.current;
    held.current = null;
    if (controls) controls.enabled = true;
    label.hide();
    if (state !== null) end(state);
    invalidate();
  };
  return {
    isHeld: () => held.current !== null,
    handlers: {
      onPointerDown: (event: PointerOn) => {
        const state = event.button === 0 ? begin(event) : null;
        if (state === null) return;
        event.stopPropagation();
        (event.target as Element).setPointerCapture(event.pointerId);
        if (controls) controls.enabled = false;
        held.current = state;
        invalidate();
      },
      onPointerMove: (event: PointerOn) => {
        const next = held.current === null ? null : move(held.current, event);
        if (!next) return;
        event.stopPropagation();
        held.current = next.state;
        label.say(next.says, event);
      },
      onPointerUp: letGo,
      onPointerCancel: letGo,
      onPointerOver: () => onHover(true),
      onPointerOut: () => onHover(false),
    },
  };
}
