import { whenText, type Graph } from '@lantern/motion';
import { boundsOf, labelsOf } from './channel-labels';
import { SHALLOW } from './chart-shared';
import { ANYWHERE, boxOf, type Places } from './layout';

/** Of words in the picture, pixels; and in how many lines they are. */
export const COMMENT_WIDTH = 190;
export const rowsOf = (text: string): number => Math.max(1, Math.ceil(text.length / 24));

/** How many transitions before it lead the same way. */
export const laneOf = ({ transitions }: Graph, i: number) =>
  transitions.slice(0, i).filter(({ from, to }) => from === transitions[i].from && to === transitions[i].to).length;

/**
 * Where the words of all channels stand, and what the whole picture takes.
 *
 * @param shallow which transitions pop by more than they may, by their places: that is said of them too
 */
export function wordsOf(graph: Graph, places: Places, shallow: ReadonlySet<number>) {
  const begins = boxOf(places, graph.initial);
  const cards = [
    ...[...places.keys()].map((id) => boxOf(places, id)),
    { x: begins.x - 12, y: begins.y - 38, width: 120, height: 38 },
    ...graph.comments.map(({ at, text }) => ({ ...at, width: COMMENT_WIDTH, height: 20 * rowsOf(text) })),
  ];
  const channels = graph.transitions.map((own, i) => ({
    from: boxOf(places, own.from ?? ANYWHERE),
    to: boxOf(places, own.to),
    lane: laneOf(graph, i),
    text: shallow.has(i) ? `${whenText(graph, own)} ${SHALLOW}` : whenText(graph, own),
  }));
  const labels = labelsOf(channels, cards);
  return { labels, bounds: boundsOf(channels, labels, cards) };
}
