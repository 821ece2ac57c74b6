'use client';
import { PARTS, turnedOn, type FitOverrides, type Part } from '@lantern/motion';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useCharacter } from '@/data/fits';
import { usePlayer } from '@/data/player';
import type { TakeInfo } from '@/data/project';
import { takeKey, useOpenTake } from '@/data/use-open-take';
import type { Turning } from '@/stage/TurnRing';
import type { FitView } from '@/worker/core.worker';
import { inMinute, stretchOf } from './Minute';
import { withMapping } from './PartsPanel';
import { withTurn, type ByHand } from './ReferencePanel';
import { useFitSettings, useFitted, useFitView, useTints } from './use-fit';

export type Panel = 'parts' | 'reference' | 'limbs' | 'day';

const NOBODY: readonly ReadonlySet<number>[] = [new Set(), new Set()];
/** Metres between two figures side by side. */
const BESIDE = 0.95;
/** The same with their arms out. */
const ARMS_OUT = 1.75;

interface Opened {
  readonly take: TakeInfo;
  readonly character: string | null;
  readonly panel: Panel;
  /** A frame of the take to go to. */
  readonly at: number | null;
}

/** A take and a character opened together: what is mapped, how the take looks on the character, what is being changed. */
export function usePair({ take, character, panel, at }: Opened) {
  const [minute, setMinute] = useState(() => inMinute(take, at ?? 0).minute);
  const stretch = useMemo(() => stretchOf(take, minute), [take, minute]);
  const id = takeKey(take, undefined, stretch);
  const { data, error } = useOpenTake(take, false, stretch);
  const opened = data?.id === id ? data : undefined;
  const { data: skin, error: skinError } = useCharacter(character);
  const { settings, change } = useFitSettings(take, character);
  // While something is turned by hand only the references follow; the take is fitted anew when it is let go.
  const [draft, setDraft] = useState<FitOverrides | null>(null);
  const view = useFitView(id, opened !== undefined, character, draft ?? settings);
  const fitted = useFitted(id, opened !== undefined && panel !== 'reference', character, settings);
  const [chosen, setChosen] = useState<Part | null>(null);
  const [hand, setHand] = useState<ByHand>({ part: 'leftUpperArm', side: 'target' });
  useGoingTo(take, at, data?.motion.frames, data?.motion.fps);
  const turning = useTurning(panel === 'reference' ? view.data : undefined, settings, hand, (next, isDone) => {
    setDraft(isDone ? null : next);
    if (isDone) change(next);
  });
  const trouble = error ?? skinError ?? view.error ?? fitted.error;
  return {
    minute,
    setMinute,
    stretch,
    opened,
    skin,
    settings,
    change,
    draft,
    view,
    fitted,
    chosen,
    setChosen,
    hand,
    setHand,
    turning,
    trouble,
  };
}

/** Loads the player, and goes to the frame that was asked for; once, afterwards one goes where one likes. */
function useGoingTo(take: TakeInfo, at: number | null, frames: number | undefined, fps: number | undefined): void {
  const goal = useRef(at);
  const load = usePlayer((state) => state.load);
  useEffect(() => {
    if (frames === undefined || fps === undefined) return;
    load(frames, fps);
    if (goal.current !== null) usePlayer.getState().seek(inMinute(take, goal.current).frame);
    goal.current = null;
  }, [frames, fps, load, take]);
}

type PairState = ReturnType<typeof usePair>;

/** What the stage shows of a pair: the take and the character in step, or the poses that count as the same. */
export function usePairStage(pair: PairState, panel: Panel, overlaid: boolean) {
  const { opened, skin, view, fitted, turning } = pair;
  const inReference = panel === 'reference';
  const sourceTint = useTints(view.data?.source.parts, panel === 'parts');
  const targetTint = useTints(view.data?.target.parts, panel === 'parts');
  const picking = usePicking(pair, panel);
  const scale = overlaid && view.data ? 1 / view.data.legRatio : 1;
  const other = useMemo(() => {
    const motion = inReference ? view.data?.target.reference : fitted.data?.motion;
    if (!skin || !motion || motion.skeleton.joints.length !== skin.skeleton.joints.length) return null;
    return {
      motion,
      mesh: skin.mesh,
      floor: inReference ? 0 : (fitted.data?.floor ?? 0),
      shift: [0, 0] as const,
      // Around the performer, so that both are seen.
      solid: !overlaid,
      tint: targetTint,
      scale,
      beside: overlaid ? 0 : inReference ? ARMS_OUT : BESIDE,
    };
  }, [inReference, view.data, fitted.data, skin, targetTint, scale, overlaid]);
  return useMemo(
    () =>
      opened
        ? {
            motion: inReference && view.data ? view.data.source.reference : opened.motion,
            mesh: opened.mesh,
            markers: inReference && opened.markers ? { ...opened.markers, footprints: [] } : opened.markers,
            floor: inReference ? 0 : opened.floor,
            heading: inReference ? undefined : opened.heading,
            tint: sourceTint,
            other,
            picking,
            turning,
          }
        : null,
    [opened, inReference, view.data, other, picking, turning, sourceTint],
  );
}

/** Clicks on joints: of the chosen part they are put right, in the reference they say what is turned by hand. */
function usePicking({ view: { data: view }, chosen, settings, change, setHand }: PairState, panel: Panel) {
  const picked = useMemo(() => {
    const of = (side: 'source' | 'target') => new Set(chosen ? (view?.[side].parts[chosen]?.joints ?? []) : []);
    return [of('source'), of('target')];
  }, [chosen, view]);
  const pick = useCallback(
    (figure: number, joint: number) => {
      if (!chosen || !view) return;
      const side = figure === 0 ? 'source' : 'target';
      const { names, parts } = view[side];
      const now = (parts[chosen]?.joints ?? []).map((j) => names[j]);
      const name = names[joint];
      change(withMapping(settings, chosen, side, now.includes(name) ? now.filter((n) => n !== name) : [...now, name]));
    },
    [chosen, view, settings, change],
  );
  const pickHand = useCallback(
    (figure: number, joint: number) => {
      const side = figure === 0 ? 'source' : 'target';
      const part = PARTS.find((name) => view?.mismatch[name] !== undefined && view[side].parts[name]?.joints.includes(joint));
      if (part) setHand({ part, side });
    },
    [view, setHand],
  );
  return useMemo(() => {
    if (panel === 'parts' && chosen) return { chosen: picked, onPick: pick };
    return panel === 'reference' ? { chosen: NOBODY, onPick: pickHand } : null;
  }, [panel, chosen, picked, pick, pickHand]);
}

/** The ring on the stage about the part that is turned by hand. */
function useTurning(
  view: FitView | undefined,
  settings: FitOverrides,
  { part, side }: ByHand,
  onTurned: (settings: FitOverrides, isDone: boolean) => void,
): Turning | null {
  const joint = view?.[side].parts[part]?.joints[0];
  const turned = useRef(onTurned);
  useEffect(() => {
    turned.current = onTurned;
  });
  return useMemo(() => {
    if (joint === undefined) return null;
    const before = settings.reference?.turns[side][part] ?? [0, 0, 0];
    return {
      figure: side === 'source' ? 0 : 1,
      joint,
      about: 'world',
      onTurn: ([x, y], degrees, isDone) => {
        const axis = x === 1 ? 0 : y === 1 ? 1 : 2;
        turned.current(withTurn(settings, side, part, turnedOn(before, axis, degrees)), isDone);
      },
    };
  }, [joint, settings, side, part]);
}
