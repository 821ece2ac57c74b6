import type { ReactNode } from 'react';
import { useCorrecting } from '@/data/correcting';
import { takeFrameOf } from '../take-frame';
import type { Workbench } from '../use-workbench';
import { CurveRow } from './CurveRow';
import { LayerRows } from './LayerRows';
import type { RowPlace } from './row-place';

/** How much of the height the curve gets, while a joint is taken hold of. */
const CURVE = 0.5;

/** The layers of the open clip, for the deck to draw; undefined while it is not corrected. */
export function layersOf({ corrections, cut, shown, time, bend }: Workbench): ((place: RowPlace) => ReactNode) | undefined {
  const { isOn, step, index, put, cycle, clipFrame } = corrections;
  if (!isOn || !step || step.layers.length === 0 || !cut || !shown || !time) return undefined;
  // Frames that came into the step, where the first of them lies on the take's axis and the others after it.
  const first = takeFrameOf(time, clipFrame(0));
  return function layers({ x, frameAt, y, height, ...place }) {
    const axis = { ...place, x: (frame: number) => x(first + frame), frameAt: (clientX: number) => frameAt(clientX) - first };
    const layer = step.layers[index];
    const curve = bend && layer ? Math.max(44, height * CURVE) : 0;
    return (
      <>
        <LayerRows
          {...axis}
          y={y}
          height={height - curve}
          layers={step.layers}
          open={index}
          frames={cycle ?? cut.to - cut.from}
          cycle={cycle}
          skeleton={shown.motion.skeleton}
          onOpen={(layer) => useCorrecting.setState({ layer, range: null })}
          onPut={put}
        />
        {bend && layer && (
          <CurveRow
            {...axis}
            {...bend}
            key={bend.joint}
            y={y + height - curve}
            height={curve}
            layer={layer}
            onPut={(next, isDone) => put(index, next, isDone)}
          />
        )}
      </>
    );
  };
}
