'use client';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef, type RefObject } from 'react';
import type { View } from './views';

/** How near the wheel has brought a view that follows the figure: 1 at first, and again with another view. */
export function useWheelZoom(view: View): RefObject<number> {
  const canvas = useThree((state) => state.gl.domElement);
  const invalidate = useThree((state) => state.invalidate);
  const zoom = useRef(1);
  useEffect(() => {
    // The free view has a wheel of its own.
    if (view === 'free') return;
    zoom.current = 1;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      zoom.current = Math.min(4, Math.max(0.2, zoom.current * Math.exp(-event.deltaY * 0.0012)));
      invalidate();
    };
    canvas.addEventListener('wheel', wheel, { passive: false });
    return () => canvas.removeEventListener('wheel', wheel);
  }, [view, canvas, invalidate]);
  return zoom;
}
