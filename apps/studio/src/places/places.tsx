'use client';
import { useEffect, type ComponentType, type ReactNode } from 'react';
import { Guarded } from '@/controls/Guarded';
import { lazily } from '@/controls/lazily';

type Load = () => Promise<ComponentType>;

const LOADS = {
  takes: async () => (await import('./takes/Takes')).Takes,
  fit: async () => (await import('./fit/Fit')).Fit,
  bench: async () => (await import('./bench/Bench')).Bench,
  joins: async () => (await import('./joins/Joins')).Joins,
  set: async () => (await import('./set/SetPlace')).SetPlace,
  drive: async () => (await import('./drive/DrivePlace')).DrivePlace,
  ship: async () => (await import('./ship/Ship')).Ship,
} satisfies Record<string, Load>;

/** A place whose code is read after the frame of the page stands; the code of the others follows when there is nothing else to do, so that they open at once. */
function place(name: keyof typeof LOADS): () => ReactNode {
  const Part = lazily(LOADS[name], name);
  return function Place() {
    useEffect(readOthers, []);
    return (
      <Guarded name="This place">
        <Part />
      </Guarded>
    );
  };
}

export const TakesPlace = place('takes');
export const FitPlace = place('fit');
export const BenchPlace = place('bench');
export const JoinsPlace = place('joins');
export const SetPlace = place('set');
export const DrivePlace = place('drive');
export const ShipPlace = place('ship');

/** One place after another, each when the browser is at rest; returns what ends it. */
function readOthers(): () => void {
  const left: Load[] = Object.values(LOADS);
  let waiting = 0;
  const next = () => {
    const load = left.shift();
    if (!load) return;
    waiting = whenIdle(() => void load().then(next, () => {}));
  };
  next();
  return () => {
    left.length = 0;
    (isIdleTold() ? cancelIdleCallback : clearTimeout)(waiting);
  };
}

const isIdleTold = () => 'requestIdleCallback' in window;
const whenIdle = (run: () => void): number => (isIdleTold() ? requestIdleCallback(run) : window.setTimeout(run, 1000));
