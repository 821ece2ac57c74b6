'use client';
import { useEffect, useRef } from 'react';

/** A stick that is moved less than this is at rest. */
const REST = 0.15;

/** Tells how far the left stick of a gamepad is moved (standard mapping), to the right and down, as long as it is. */
export function useGamepad(onStick: (x: number, y: number) => void): void {
  const told = useRef(onStick);
  useEffect(() => {
    told.current = onStick;
  });
  useEffect(() => {
    if (typeof navigator.getGamepads !== 'function') return;
    let frame = 0;
    const look = () => {
      frame = requestAnimationFrame(look);
      for (const pad of navigator.getGamepads()) {
        if (!pad) continue;
        const [x = 0, y = 0] = pad.axes;
        if (Math.hypot(x, y) > REST) told.current(Math.abs(x) > REST ? x : 0, Math.abs(y) > REST ? y : 0);
      }
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, []);
}
