import { z } from 'zod';
import { swapSides } from '../anatomy/side-names';
import { correct, layersDone, type Corrected } from '../edit/correct';
import { layerTroubles } from '../edit/layer-troubles';
import { layerSchema, type Layer, type LayerKey, type Touch } from '../edit/layers';
import { flip, movedTarget, targetOnOtherSide } from '../edit/touch-target';
import { farthestAt } from '../measure/farthest';
import { played } from '../measure/played';
import { worldMotion, type Clip } from '../model/clip';
import type { FrameMap } from '../model/frame-map';
import { forwardKinematics } from '../model/kinematics';
import { repeated } from '../model/floor-transform';
import { cycleTransform } from '../model/repeat';
import { defineStep, stepObject } from './definition';
import { putBack } from './put-back';

const schema = stepObject('corrections', {
  /** From the lowest up: each lies over what those before it left. */
  layers: z.array(layerSchema).max(60).default([]),
});
export type CorrectionsParams = z.infer<typeof schema>;

/** Sparse keys and touches in layers over dense motion. Without a layer that is done nothing is changed, to the bit. */
export const corrections = defineStep(schema, {
  title: 'Corrections',
  about: 'Layers of keys and touches: a hand to the rail, the head higher, an elbow out.',
  stages: ['body', 'time'],
  corrects: true,
  create: () => ({ layers: [{ name: 'layer 1' }] }),
  mapTime: (step, time) => ({ ...step, layers: step.layers.map((layer) => layerAt(layer, time)) }),
  otherSide: (step) => ({ ...step, layers: step.layers.map(layerOnOtherSide) }),
  report(before, after) {
    const [a, b] = [before, after].map((clip) => forwardKinematics(worldMotion(clip)));
    const { metres, frame } = farthestAt(a, b);
    return { label: 'moves', unit: 'cm', digits: 1, before: null, after: metres * 100, at: metres > 0 ? frame : undefined };
  },
  troubles: (before, step) => layerTroubles(step.layers, before.motion),
  apply(clip, { layers }) {
    if (layersDone(layers).length === 0) return clip;
    const shown = playedForLayers(clip);
    return putBack(clip, correct(shown, layers), shown.start);
  },
});

/** A clip as layers are laid on it. */
export function playedForLayers(clip: Clip): Corrected {
  const cycle = cycleTransform(clip);
  return { ...played(clip), cycle: clip.loop ? clip.motion.frames - 1 : null, round: (turns) => repeated(cycle, turns) };
}

/** All that a layer says in frames, said of the same instants of a clip that is cut elsewhere or has another rate. */
function layerAt(layer: Layer, { scale, shift, floor }: FrameMap): Layer {
  const at = (frame: number) => Math.round(frame * scale + shift);
  const long = (frames: number) => (frames > 0 ? Math.max(1, Math.round(frames * scale)) : 0);
  const fades = <Of extends { fadeIn: number; fadeOut: number }>(of: Of): Of => ({
    ...of,
    fadeIn: long(of.fadeIn),
    fadeOut: long(of.fadeOut),
  });
  return {
    ...fades(layer),
    weight: typeof layer.weight === 'number' ? layer.weight : layer.weight.map(({ frame, value }) => ({ frame: at(frame), value })),
    keys: layer.keys.map((key) => ({ ...key, frame: at(key.frame) })),
    touches: layer.touches.map((touch) => ({
      ...fades(touch),
      from: at(touch.from),
      to: Math.max(at(touch.from), at(touch.to)),
      ...(floor && { target: movedTarget(touch.target, floor) }),
    })),
  };
}

const layerOnOtherSide = (layer: Layer): Layer => ({
  ...layer,
  keys: layer.keys.map(keyOnOtherSide),
  touches: layer.touches.map(touchOnOtherSide),
});

/**
 * The same key of the partner, as it is in the mirror.
 *
 * @example
 * keyOnOtherSide({ frame: 3, joint: 'LeftArm', turn: [10, 20, -5] }); // { frame: 3, joint: 'RightArm', turn: [10, -20, 5] }
 */
export const keyOnOtherSide = ({ joint, turn: [x, y, z], shift, ...rest }: LayerKey): LayerKey => ({
  ...rest,
  joint: swapSides(joint),
  turn: [x, flip(y), flip(z)],
  ...(shift && { shift: [flip(shift[0]), shift[1], shift[2]] }),
});

const touchOnOtherSide = (touch: Touch): Touch => ({
  ...touch,
  limb: touch.limb.replace(/left|right/, swapSides) as Touch['limb'],
  target: targetOnOtherSide(touch.target),
});
