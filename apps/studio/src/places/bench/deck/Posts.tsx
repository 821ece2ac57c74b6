'use client';
import { useMemo } from 'react';
import { usePartners } from '../use-bench';
import type { Axis } from '@/timeline/axis-window';
import type { DeckProps } from './deck-props';
import { Post } from './Post';

/** Seams that draw a post; the worse ones do not. */
const MOST_SEAMS = 6;

/** The posts of the cut; within reach each goes to the best seam with the other, else to a footfall. */
export function Posts({ take, cut, rest, onCut, axis, height }: DeckProps & { axis: Axis; height: number }) {
  const { span, window, x, frameAt } = axis;
  const { frames } = take.motion;
  const falls = useMemo(
    () => (take.contacts ? [...take.contacts.left, ...take.contacts.right].map(({ from }) => from).filter((f) => f > 0) : []),
    [take.contacts],
  );
  const partners = usePartners(take.id, rest);
  const snapTo = (seams: readonly number[]) => (frame: number, isFree: boolean) => {
    const whole = Math.min(frames - 1, Math.max(0, Math.round(frame)));
    if (isFree) return whole;
    const reach = (9 / span) * (window.to - window.from);
    const nearest = (places: readonly number[]) =>
      places.reduce((best, f) => (Math.abs(f - frame) < Math.abs(best - frame) ? f : best), Infinity);
    return [nearest(seams.slice(0, MOST_SEAMS)), nearest(falls)].find((f) => Math.abs(f - frame) <= reach) ?? whole;
  };
  if (!cut) return null;
  const shared = { height, frameAt };
  return (
    <>
      <Post
        {...shared}
        name="In post"
        frame={cut.from}
        least={0}
        most={cut.to - 2}
        x={x(cut.from)}
        snap={snapTo(partners.ins)}
        onMove={(frame, isDone) => onCut({ from: Math.min(frame, cut.to - 2), to: cut.to }, isDone)}
      />
      <Post
        {...shared}
        name="Out post"
        frame={cut.to}
        least={cut.from + 2}
        most={frames - 1}
        x={x(cut.to)}
        snap={snapTo(partners.outs)}
        onMove={(frame, isDone) => onCut({ from: cut.from, to: Math.max(frame, cut.from + 2) }, isDone)}
      />
    </>
  );
}
