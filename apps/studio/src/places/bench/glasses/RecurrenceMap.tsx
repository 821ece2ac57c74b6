'use client';
import { Box, Typography } from '@mui/material';
import { useTheme } from '@mui/material/styles';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { core } from '@/worker/core';
import type { OpenTake } from '@/worker/core.worker';
import type { Cut } from '../use-bench';

const SIZE = 256;
/** A click reaches this far for the best pair of frames, pixels of the map. */
const REACH = 7;
const SHORTEST_SECONDS = 0.3;

/** The take against itself: dark where two instants are alike, the cut as a cross; a click on a dark spot cuts there. */
export function RecurrenceMap({ take, cut, onCut }: { take: OpenTake; cut: Cut | null; onCut: (cut: Cut) => void }) {
  const { frames, fps } = take.motion;
  const canvas = useRef<HTMLCanvasElement>(null);
  const [window, setWindow] = useState<readonly [number, number]>([0, frames - 1]);
  const ink = useTheme().palette.mode === 'dark' ? [223, 214, 190] : [31, 42, 46];
  const shade = ink.join();
  useEffect(() => setWindow([0, frames - 1]), [take.id, frames]);
  useEffect(() => {
    let isOld = false;
    void core()
      .recurrence(take.id, window, SIZE)
      .then((likeness) => {
        const context = canvas.current?.getContext('2d');
        if (isOld || !context) return;
        const image = context.createImageData(SIZE, SIZE);
        const [r, g, b] = shade.split(',').map(Number);
        likeness.forEach((value, i) => image.data.set([r, g, b, value], i * 4));
        context.putImageData(image, 0, 0);
      });
    return () => {
      isOld = true;
    };
  }, [take.id, window, shade]);
  useSquareZoom(canvas, frames, fps, setWindow);
  const perPixel = (window[1] - window[0]) / SIZE;
  const place = (frame: number) => ((frame - window[0]) / (window[1] - window[0])) * SIZE;
  const click = async (x: number, y: number) => {
    const [a, b] = [window[0] + Math.min(x, y) * perPixel, window[0] + Math.max(x, y) * perPixel].map(Math.round);
    const least = Math.round(SHORTEST_SECONDS * fps);
    if (b - a < least) return;
    onCut(await core().snap(take.id, a, b, Math.min(40, Math.max(2, Math.round(REACH * perPixel))), least));
  };
  return (
    <Box>
      <Box sx={{ position: 'relative', width: SIZE, height: SIZE, border: `1px solid ${chart('rule')}` }}>
        <canvas
          ref={canvas}
          width={SIZE}
          height={SIZE}
          role="img"
          aria-label="The take against itself: dark where two instants are alike"
          style={{ position: 'absolute', inset: 0, cursor: 'crosshair' }}
          onClick={(event) => {
            const box = event.currentTarget.getBoundingClientRect();
            void click(event.clientX - box.left, event.clientY - box.top);
          }}
        />
        {cut && (
          <svg width={SIZE} height={SIZE} style={{ position: 'absolute', inset: 0, pointerEvents: 'none', overflow: 'hidden' }}>
            <g stroke={chart('lamp')} strokeWidth={1.5}>
              <line x1={0} x2={SIZE} y1={place(cut.from)} y2={place(cut.from)} />
              <line x1={place(cut.to)} x2={place(cut.to)} y1={0} y2={SIZE} />
            </g>
            <circle cx={place(cut.to)} cy={place(cut.from)} r={5} fill="none" stroke={chart('lamp')} strokeWidth={2} />
          </svg>
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="caption" color="text.secondary" sx={{ flex: 1 }}>
          frames {Math.round(window[0])}–{Math.round(window[1])}; dark is alike, click to cut
        </Typography>
        <Small onClick={() => setWindow([0, frames - 1])}>all</Small>
      </Box>
    </Box>
  );
}

/** The wheel zooms about the middle between the two instants under the pointer: the map stays square. */
function useSquareZoom(
  canvas: RefObject<HTMLCanvasElement | null>,
  frames: number,
  fps: number,
  setWindow: (change: (window: readonly [number, number]) => readonly [number, number]) => void,
): void {
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const zoom = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      const share = ((event.clientX - box.left) / box.width + (event.clientY - box.top) / box.height) / 2;
      setWindow(([from, to]) => {
        const span = Math.min(frames - 1, Math.max(fps, (to - from) * Math.exp(event.deltaY * 0.0016)));
        const at = from + share * (to - from);
        const start = Math.min(Math.max(0, at - share * span), frames - 1 - span);
        return [start, start + span];
      });
    };
    element.addEventListener('wheel', zoom, { passive: false });
    return () => element.removeEventListener('wheel', zoom);
  }, [canvas, frames, fps, setWindow]);
}
