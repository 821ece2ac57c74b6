'use client';
import { Box, LinearProgress } from '@mui/material';
import { createElement, lazy, Suspense, type ComponentType, type ReactNode } from 'react';

/**
 * A part of the page whose code is read when it is shown for the first time; until then a bar stands in its place when it
 * has a name to say, else nothing. For what is heavy and not always seen, such as charts.
 *
 * @param height of the room that is kept for it meanwhile, pixels, so that what stands under it does not move away from a hand
 *
 * @example
 * const SpeedChart = lazily(async () => (await import('./SpeedChart')).SpeedChart);
 */
export function lazily<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  name?: string,
  height?: number,
): (props: Props) => ReactNode {
  // What could not be read is asked for anew when it is shown the next time.
  const ask = () =>
    lazy(async () => {
      try {
        return { default: await load() };
      } catch (error) {
        Part = ask();
        throw error;
      }
    });
  let Part = ask();
  const bar = name !== undefined && <LinearProgress aria-label={`Loading ${name}`} />;
  const meanwhile = height === undefined ? bar : <Box sx={{ height }}>{bar}</Box>;
  return function Lazily(props) {
    return <Suspense fallback={meanwhile}>{createElement<Props>(Part, props)}</Suspense>;
  };
}
