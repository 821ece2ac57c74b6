import type { ReactNode } from 'react';
import { useCorrecting } from '@/data/correcting';
import { takeFrameOf } from '../take-frame';
import type { Workbench } from '../use-workbench';
import { LayerRows, type RowPlace } from './LayerRows';

/** The layers of the open clip, for the deck to draw; undefined while it is not corrected. */
export function layersOf({ corrections, cut, shown, time }: Workbench): ((place: RowPlace) => ReactNode) | undefined {
  const { isOn, step, index, put, cycle, clipFrame } = corrections;
  if (!isOn || !step || step.layers.length === 0 || !cut || !shown || !time) return undefined;
  // Frames that came into the step, where the first of them lies on the take's axis and the others after it.
  const first = takeFrameOf(time, clipFrame(0));
  return function layers({ x, frameAt, ...place }) {
    return (
      <LayerRows
        {...place}
        x={(frame) => x(first + frame)}
        frameAt={(clientX) => frameAt(clientX) - first}
        layers={step.layers}
        open={index}
        frames={cycle ?? cut.to - cut.from}
        cycle={cycle}
        skeleton={shown.motion.skeleton}
        onOpen={(layer) => useCorrecting.setState({ layer })}
        onPut={put}
      />
    );
  };
}
