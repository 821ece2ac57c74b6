import {
  cutMotion,
  facingOf,
  fromAxisAngle,
  grab,
  handTurned,
  pinnedLimb,
  swungOut,
  turnInWorld,
  withoutPeg,
  type Grabbed,
  type Layer,
  type Motion,
  type PinnedLimb,
  type Skeleton,
  type Vec3,
} from '@lantern/motion';
import { useCallback, useMemo, useRef } from 'react';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { usePlayer } from '@/data/player';
import type { ClipMeasured, ClipResult } from '@/worker/core.worker';
import { correctionsOf, freeLayerName, newLayer, withLayer, withOtherSide, type CorrectionsStep } from './layer-doc';

/** What the Bench corrects with: the layers of the open clip, the joint taken hold of, and what is done to them. */
export interface Corrections {
  readonly isOn: boolean;
  readonly step: CorrectionsStep | null;
  /** The open layer and its number; null when there is none yet. */
  readonly layer: Layer | null;
  readonly index: number;
  readonly skeleton: Skeleton | null;
  /** The joint taken hold of, in the skeleton that is shown; -1 for none. */
  readonly joint: number;
  /** The frame that came into the corrections at the playhead. */
  readonly frameNow: () => number;
  /** The frame of the clip at which a frame that came into the corrections is shown. */
  readonly clipFrame: (frame: number) => number;
  readonly fps: number;
  /** Frames of a loop as it comes into the corrections; null when the clip is none. */
  readonly cycle: number | null;
  /** A layer changed; one beyond the last is added. While it is dragged with `isDone` false: shown, and not kept. */
  readonly put: (index: number, layer: Layer, isDone?: boolean) => void;
  /** Turns the joint about an axis of the world; of a limb whose end is held by a touch, swings its middle instead. */
  readonly turn: (axis: Vec3, degrees: number, isDone: boolean) => void;
  /** The limb of the joint, if a touch of the open layer holds its end at a frame that came into the corrections. */
  readonly pinned: (frame: number) => PinnedLimb | null;
  readonly draw: (to: Vec3, isDone: boolean) => void;
  /** Lays a key at the playhead that leaves everything as it is. */
  readonly peg: () => void;
  readonly unpeg: () => void;
  /** Lays the keys at the playhead on the other side too. */
  readonly otherSide: () => void;
}

interface Shown {
  readonly doc: ClipDoc | null;
  readonly shown: ClipResult | null;
  readonly measured: ClipMeasured | null;
  readonly draft: (doc: ClipDoc | null) => void;
}

/** What is dragged, as it was when it was taken hold of. */
interface Held {
  readonly pose: Motion;
  readonly layer: Layer;
  readonly frame: number;
  readonly at: number;
}

export function useCorrections({ doc, shown, measured, draft }: Shown): Corrections {
  const { isOn, layer: wanted, joint: name } = useCorrecting();
  const keep = useClips((state) => state.put);
  const step = correctionsOf(doc);
  const layers = step?.layers ?? NO_LAYERS;
  const index = Math.min(wanted, Math.max(0, layers.length - 1));
  const layer = layers[index] ?? null;
  const skeleton = shown?.motion.skeleton;
  const fps = shown?.motion.fps ?? 60;
  const joint = name === null || !skeleton ? -1 : skeleton.joints.findIndex((own) => own.name === name);
  const frames = (step && measured?.steps[step.id]?.frames) ?? null;
  const shownCycle = Math.max(1, shown?.cycle ?? 1);
  const frameNow = useCallback(() => {
    const at = Math.round(usePlayer.getState().frame) % shownCycle;
    return frames ? Math.round(frames[Math.min(frames.length - 1, at)]) : at;
  }, [frames, shownCycle]);
  const clipFrame = useCallback(
    (frame: number) => {
      if (!frames) return Math.min(shownCycle, Math.max(0, frame));
      let best = 0;
      for (let f = 1; f < frames.length; f++) if (Math.abs(frames[f] - frame) < Math.abs(frames[best] - frame)) best = f;
      return best;
    },
    [frames, shownCycle],
  );
  const cycle = shown?.loop ? (frames ? Math.round(Math.max(...frames)) : shown.cycle) : null;
  const put = useCallback(
    (at: number, next: Layer, isDone = true) => {
      if (!doc) return;
      const made = withLayer(doc, at, next);
      draft(made);
      if (isDone) keep(made);
    },
    [doc, draft, keep],
  );
  const held = useRef<Held | null>(null);
  const move = useCallback(
    (work: (pose: Motion) => readonly Grabbed[], what: string, isDone: boolean) => {
      if (!doc || !shown || joint < 0) return;
      const now = held.current ?? {
        pose: cutMotion(shown.motion, poseFrame(shown), poseFrame(shown)),
        layer: layer ?? newLayer(freeLayerName(layers, `${inWords(name ?? '')} ${what}`)),
        frame: frameNow(),
        at: layer ? index : layers.length,
      };
      held.current = isDone ? null : now;
      const facing = shown.heading?.[poseFrame(shown)] ?? facingOf(now.pose);
      const next = work(now.pose).reduce(
        (own, { joint: turned, local, moved }) =>
          handTurned(own, now.pose.skeleton, cycle, { joint: turned, frame: now.frame, local, shift: moved && alongWay(moved, facing) }),
        now.layer,
      );
      put(now.at, next, isDone);
      if (isDone && !layer) useCorrecting.setState({ layer: now.at });
    },
    [doc, shown, joint, layer, layers, name, index, frameNow, cycle, put],
  );
  const body = skeleton?.body ?? null;
  const pinned = useCallback(
    (frame: number) => (layer && body && joint >= 0 ? pinnedLimb(layer, body, joint, frame) : null),
    [layer, body, joint],
  );
  // Since it was taken hold of: what is shown meanwhile is not what it began with.
  const swung = useRef<Layer | null>(null);
  const swing = useCallback(
    ({ touch, outwards }: PinnedLimb, degrees: number, isDone: boolean) => {
      const from = swung.current ?? layer;
      swung.current = isDone ? null : from;
      if (from) put(index, swungOut(from, touch, outwards * degrees), isDone);
    },
    [layer, index, put],
  );
  return useMemo(
    () => ({
      ...{ isOn: isOn && shown !== null, step, layer, index, joint, frameNow, clipFrame, cycle, put, fps, skeleton: skeleton ?? null },
      pinned,
      turn: (axis, degrees, isDone) => {
        const limb = layer && pinned(frameNow());
        if (limb) return swing(limb, degrees, isDone);
        move((pose) => [turnInWorld(pose, joint, fromAxisAngle(axis, (degrees * Math.PI) / 180))], 'turned', isDone);
      },
      draw: (to, isDone) => move((pose) => grab(pose, joint, to), 'moved', isDone),
      peg: () => {
        if (!layer || !skeleton) return;
        const names = new Set([...layer.keys.map((key) => key.joint), ...(name ? [name] : [])]);
        const pegged = skeleton.joints.reduce(
          (own, { name: its }, j) => (names.has(its) ? handTurned(own, skeleton, cycle, { joint: j, frame: frameNow() }) : own),
          layer,
        );
        put(index, pegged);
      },
      unpeg: () => layer && put(index, withoutPeg(layer, frameNow())),
      otherSide: () =>
        layer &&
        skeleton &&
        put(
          index,
          withOtherSide(
            layer,
            frameNow(),
            skeleton.joints.map((own) => own.name),
          ),
        ),
    }),
    [isOn, shown, step, layer, index, joint, frameNow, clipFrame, cycle, put, fps, move, pinned, swing, skeleton, name],
  );
}

const NO_LAYERS: readonly Layer[] = [];

const poseFrame = ({ motion }: ClipResult): number => Math.min(motion.frames - 1, Math.max(0, Math.round(usePlayer.getState().frame)));

/** `LeftForearm` as `left forearm`. */
const inWords = (name: string): string =>
  name
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/[_.:-]+/g, ' ')
    .toLowerCase();

/** A shift in the world as left, up and front of a way. */
const alongWay = ([x, y, z]: Vec3, heading: number): Vec3 => [
  x * Math.cos(heading) - z * Math.sin(heading),
  y,
  x * Math.sin(heading) + z * Math.cos(heading),
];
