import { usePlayer } from './player';

/** The longest that a page stands still for the next one, milliseconds: if that one has not come by then, this one goes on. */
export const LONGEST = 15_000;

let waiting: ReturnType<typeof setTimeout> | undefined;

/**
 * Called when another page was asked for. What plays on this one stands still until that one is there: React makes the next page in the pauses
 * between what is more urgent, and begins anew after each of these. A stage that is drawn sixty times a second would leave no pauses, and the
 * next page would come after five seconds, when React stops waiting for one.
 */
export function holdStill(): void {
  clearTimeout(waiting);
  usePlayer.setState({ held: true });
  waiting = setTimeout(goOn, LONGEST);
}

/** The page that was asked for is there, or is not waited for any more. */
export function goOn(): void {
  clearTimeout(waiting);
  usePlayer.setState({ held: false });
}
