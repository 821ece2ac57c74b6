import { canonical } from '../math/canonical';

/** All that a clip is made from, so that it is known when it has to be made again, and why. */
export interface ClipInputs {
  /** The content of what it is cut from: that of a take's file and how it is read, or all that a join is made of. */
  readonly source: string;
  /** First and last frame of the cut. */
  readonly cut: readonly [number, number] | null;
  readonly steps: readonly { readonly kind: string; readonly [parameter: string]: unknown }[];
  /** What is settled for suits and the character. */
  readonly settled: readonly unknown[];
  /** The content of the character's file. */
  readonly character: string | null;
  readonly markers: readonly { readonly frame: number; readonly name: string }[];
  /** Rate, thinning, the home pose, and whatever else of the shipment a clip by itself depends on. */
  readonly shipping: unknown;
}

/**
 * Why a clip is not what it was, in words; empty when it is made from the same.
 *
 * @example
 * const inputs = projectInputs(parseProject(projectText))('stroll');
 * whyChanged({ ...inputs, cut: [1, 2] }, inputs); // ['its cut']
 */
export function whyChanged(now: ClipInputs, before: ClipInputs): string[] {
  const differ = (a: unknown, b: unknown) => canonical(a) !== canonical(b);
  const why: string[] = [];
  if (now.source !== before.source) why.push('what it is cut from');
  if (differ(now.cut, before.cut)) why.push('its cut');
  why.push(...changedSteps(now.steps, before.steps));
  if (differ(now.settled, before.settled)) why.push('how its suit is fitted');
  if (now.character !== before.character) why.push('the character');
  if (differ(now.markers, before.markers)) why.push('its markers');
  if (differ(now.shipping, before.shipping)) why.push('how it is shipped');
  return why;
}

function changedSteps(now: ClipInputs['steps'], before: ClipInputs['steps']): string[] {
  const kinds = (own: ClipInputs['steps'], other: ClipInputs['steps']) => {
    const left = other.map(canonical);
    return own.flatMap((step) => {
      const at = left.indexOf(canonical(step));
      if (at < 0) return [step.kind];
      left.splice(at, 1);
      return [];
    });
  };
  const [come, gone] = [kinds(now, before), kinds(before, now)];
  const all = [...new Set([...come, ...gone])];
  return all.map((kind) => {
    if (!gone.includes(kind)) return `the step “${kind}” came in`;
    return come.includes(kind) ? `the step “${kind}”` : `the step “${kind}” is gone`;
  });
}
