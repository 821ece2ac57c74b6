import type { Layer } from './layers';

/** Frames of a layer, both included. */
export interface LayerRange {
  readonly from: number;
  readonly to: number;
}

const holds = ({ from, to }: LayerRange, frame: number): boolean => frame >= from && frame <= to;

/**
 * What of a layer lies in a range: pegs, touches that lie in it as a whole, and keys of the weight.
 *
 * @example
 * const layer = layerSchema.parse({ name: 'nod', keys: [5, 20, 60].map((frame) => ({ frame, joint: 'Head', turn: [9, 0, 0] })) });
 * partOfLayer(layer, { from: 10, to: 70 }).keys.map(({ frame }) => frame); // [20, 60]
 */
export const partOfLayer = (layer: Layer, range: LayerRange): Layer => sifted(layer, range, true);

/** A layer without what of it lies in a range. */
export const withoutRange = (layer: Layer, range: LayerRange): Layer => sifted(layer, range, false);

function sifted(layer: Layer, range: LayerRange, isWithin: boolean): Layer {
  const { weight } = layer;
  const kept = typeof weight === 'number' ? [] : weight.filter(({ frame }) => holds(range, frame) === isWithin);
  return {
    ...layer,
    keys: layer.keys.filter(({ frame }) => holds(range, frame) === isWithin),
    touches: layer.touches.filter(({ from, to }) => (holds(range, from) && holds(range, to)) === isWithin),
    // A weight of which no key is left is what it was at the first of them.
    ...(typeof weight !== 'number' && { weight: kept.length > 0 ? kept : weight[0].value }),
  };
}

/**
 * A layer whose part in a range is some frames later (or earlier); keys that it comes upon are replaced.
 *
 * @param by frames
 * @param keep the part stays where it was as well
 *
 * @example
 * const layer = layerSchema.parse({ name: 'nod', keys: [5, 20].map((frame) => ({ frame, joint: 'Head', turn: [9, 0, 0] })) });
 * withRangeMoved(layer, { from: 10, to: 30 }, 7).keys.map(({ frame }) => frame); // [5, 27]
 */
export function withRangeMoved(layer: Layer, range: LayerRange, by: number, keep = false): Layer {
  if (by === 0) return layer;
  const part = partOfLayer(layer, range);
  const rest = keep ? layer : withoutRange(layer, range);
  const keys = part.keys.map((key) => ({ ...key, frame: key.frame + by }));
  const isNew = ({ frame, joint }: Layer['keys'][number]) => !keys.some((own) => own.frame === frame && own.joint === joint);
  return {
    ...rest,
    keys: [...rest.keys.filter(isNew), ...keys].sort((a, b) => a.frame - b.frame),
    touches: [...rest.touches, ...part.touches.map((touch) => ({ ...touch, from: touch.from + by, to: touch.to + by }))],
    weight: weightMoved(layer, range, by, keep),
  };
}

function weightMoved({ weight }: Layer, range: LayerRange, by: number, keep: boolean): Layer['weight'] {
  if (typeof weight === 'number') return weight;
  const moved = weight.filter(({ frame }) => holds(range, frame)).map((key) => ({ ...key, frame: key.frame + by }));
  const rest = weight.filter(({ frame }) => (keep || !holds(range, frame)) && !moved.some((own) => own.frame === frame));
  return [...rest, ...moved].sort((a, b) => a.frame - b.frame);
}
