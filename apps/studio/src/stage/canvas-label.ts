import { DUSK } from '@/controls/theme';

/** A small label over the stage, hidden at first, that the pointer goes through; it is placed by its transform. */
export function canvasLabel(canvas: HTMLCanvasElement, colour: string): HTMLDivElement {
  const label = document.createElement('div');
  Object.assign(label.style, {
    position: 'absolute',
    left: '0',
    top: '0',
    padding: '1px 7px',
    borderRadius: '3px',
    background: 'rgba(14,29,33,0.85)',
    color: colour,
    font: '14px "Alegreya Sans", sans-serif',
    pointerEvents: 'none',
    whiteSpace: 'nowrap',
    display: 'none',
    zIndex: '2',
  });
  (canvas.parentElement?.parentElement ?? document.body).appendChild(label);
  return label;
}

export const LABEL_COLOURS = { plain: DUSK.text, measured: DUSK.warm } as const;
