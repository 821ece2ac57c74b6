'use client';
import { createElement, lazy, Suspense, type ComponentType, type ReactNode } from 'react';

/**
 * A part of the page whose code is read when it is shown for the first time; until then nothing stands in its place. For what is heavy and seldom seen, such as charts.
 *
 * @example
 * const SpeedChart = lazily(async () => (await import('./SpeedChart')).SpeedChart);
 */
export function lazily<Props extends object>(load: () => Promise<ComponentType<Props>>): (props: Props) => ReactNode {
  const Part = lazy(async () => ({ default: await load() }));
  return function Lazily(props) {
    return <Suspense fallback={null}>{createElement<Props>(Part, props)}</Suspense>;
  };
}
