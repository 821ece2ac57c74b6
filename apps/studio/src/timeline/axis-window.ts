import { scaleLinear } from 'd3-scale';
import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { GUTTER, RIGHT } from './deck-layout';

/** The stretch of the take that the deck shows, frames. */
export interface DeckWindow {
  readonly from: number;
  readonly to: number;
}

export function clampWindow({ from, to }: DeckWindow, frames: number): DeckWindow {
  const span = Math.min(Math.max(12, to - from), Math.max(12, frames - 1));
  const start = Math.min(Math.max(0, from), Math.max(0, frames - 1 - span));
  return { from: start, to: start + span };
}

function useWheelZoom(
  svg: RefObject<SVGSVGElement | null>,
  setWindow: (change: (window: DeckWindow) => DeckWindow) => void,
  frames: number,
  width: number,
): void {
  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const zoom = (event: WheelEvent) => {
      event.preventDefault();
      const share = Math.min(
        1,
        Math.max(0, (event.clientX - element.getBoundingClientRect().left - GUTTER) / Math.max(1, width - GUTTER - RIGHT)),
      );
      setWindow(({ from, to }) => {
        if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
          const by = ((event.deltaX || event.deltaY) / width) * (to - from);
          return clampWindow({ from: from + by, to: to + by }, frames);
        }
        const factor = Math.exp(event.deltaY * 0.0016);
        const at = from + share * (to - from);
        return clampWindow({ from: at - (at - from) * factor, to: at + (to - at) * factor }, frames);
      });
    };
    element.addEventListener('wheel', zoom, { passive: false });
    return () => element.removeEventListener('wheel', zoom);
  }, [svg, setWindow, frames, width]);
}

function usePan(setWindow: (change: (window: DeckWindow) => DeckWindow) => void, frames: number, span: number) {
  const last = useRef(0);
  return {
    start: (clientX: number) => {
      last.current = clientX;
    },
    move: (clientX: number) => {
      const pixels = last.current - clientX;
      last.current = clientX;
      setWindow(({ from, to }) => {
        const by = (pixels / span) * (to - from);
        return clampWindow({ from: from + by, to: to + by }, frames);
      });
    },
  };
}

/**
 * The time axis of a deck: which stretch it shows, where a frame is on it and which frame a pointer is on; the wheel zooms, `pan` moves.
 *
 * @param initial the stretch at first
 */
export function useAxis(svg: RefObject<SVGSVGElement | null>, frames: number, width: number, initial: () => DeckWindow) {
  const [window, setWindow] = useState<DeckWindow>(initial);
  useWheelZoom(svg, setWindow, frames, width);
  const span = Math.max(1, width - GUTTER - RIGHT);
  const pan = usePan(setWindow, frames, span);
  const x = useMemo(
    () =>
      scaleLinear()
        .domain([window.from, window.to])
        .range([GUTTER, GUTTER + span]),
    [window, span],
  );
  const frameAt = useCallback((clientX: number) => x.invert(clientX - (svg.current?.getBoundingClientRect().left ?? 0)), [svg, x]);
  return { window, setWindow, span, pan, x: x as (frame: number) => number, frameAt };
}

/** The axis as it is shown: its window, and where frames lie in it. */
export type Axis = ReturnType<typeof useAxis>;
