import { useEffect, useMemo, useRef } from 'react';
import { canvasLabel, LABEL_COLOURS } from './canvas-label';
import type { PointerPlace } from './canvas-pick';

/** A label over the stage that goes along with what is dragged. */
export function useCanvasLabel(canvas: HTMLCanvasElement) {
  const label = useRef<HTMLDivElement | null>(null);
  useEffect(() => {
    const made = canvasLabel(canvas, LABEL_COLOURS.measured);
    label.current = made;
    return () => made.remove();
  }, [canvas]);
  return useMemo(
    () => ({
      say(words: string, { clientX, clientY }: PointerPlace) {
        if (!label.current) return;
        const box = canvas.getBoundingClientRect();
        label.current.style.display = 'block';
        label.current.style.transform = `translate(${clientX - box.left + 14}px, ${clientY - box.top - 30}px)`;
        label.current.textContent = words;
      },
      hide() {
        if (label.current) label.current.style.display = 'none';
      },
    }),
    [canvas],
  );
}
