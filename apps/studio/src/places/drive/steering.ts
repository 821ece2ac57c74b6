import type { GraphInput } from '@lantern/motion';

/** How the helm is held: to the right and ahead, each from −1 to 1. */
export interface Helm {
  readonly x: number;
  readonly y: number;
}

/** Less than this is at rest. */
const REST = 0.12;

/**
 * What a helm asks of a graph, input by input: ahead is speed, to the side a rate of turning; of somebody who is asked to stand it is the way that he
 * shall face. Inputs that no helm knows stay as they are.
 *
 * @param now of all inputs, in the graph's order
 */
export function askedOf(inputs: readonly GraphInput[], { x, y }: Helm, now: ArrayLike<number>): number[] {
  const ahead = y > REST ? y : 0;
  const aside = Math.abs(x) > REST ? x : 0;
  const stands = ahead === 0;
  const hasDirection = inputs.some(({ name }) => name === 'direction');
  return inputs.map((input, i) => {
    if (input.kind !== 'number') return now[i];
    const { from, to } = input;
    switch (input.name) {
      case 'speed':
        return hasDirection ? Math.min(1, Math.hypot(x, y)) * to : ahead * to;
      case 'turn':
        return stands || aside === 0 ? 0 : aside > 0 ? aside * from : -aside * to;
      case 'direction':
        return Math.hypot(x, y) > REST ? (Math.atan2(-x, y) * 180) / Math.PI : 0;
      case 'way':
        if (!stands) return 0;
        if (y < -0.5) return aside > 0 ? -180 : 180;
        return aside === 0 ? 0 : aside > 0 ? -90 : 90;
      default:
        return now[i];
    }
  });
}

/** Keys that are held, as a helm; Shift makes haste. */
export function helmOfKeys(held: ReadonlySet<string>): Helm {
  const on = (...keys: string[]) => keys.some((key) => held.has(key));
  const haste = held.has('shift') ? 1 : 0.5;
  return {
    x: (on('d', 'arrowright') ? 1 : 0) - (on('a', 'arrowleft') ? 1 : 0),
    y: on('w', 'arrowup') ? haste : on('s', 'arrowdown') ? -1 : 0,
  };
}
