import { channelWay, type Box } from './channel-way';

/** Where the words of a channel stand. */
export interface ChannelLabel {
  /** Where on its way its sounding is, 0 to 1. */
  readonly share: number;
  /** Whether the words are to the right of the sounding. */
  readonly isRight: boolean;
}

/** With where a picture of its overlap would be hidden least: from the middle of its sounding to the middle of the picture, pixels. */
export interface PlacedLabel extends ChannelLabel {
  readonly picture: readonly [number, number];
}

export interface LabelledChannel {
  readonly from: Box;
  readonly to: Box;
  readonly lane: number;
  readonly text: string;
}

/** How wide words may be before they go on in the next line, and about how wide a letter, and how high a line is; pixels. */
export const WIDEST = 130;
const [LETTER, LINE] = [6.2, 15];
/** Of a sounding, and from its middle to the words; pixels. */
const SOUNDING = { width: 32, height: 22 } as const;
export const BESIDE = 20;
/** Of the picture of an overlap, with what is said under it; pixels. */
export const PICTURE = { width: 90, height: 92 } as const;
/** Where it may be around a sounding, in widths to the right and heights down. */
const AROUND = [0.5, -0.5, 1, -1].flatMap((down) =>
  [0, 0.7, -0.7, 1.3, -1.3].map((across) => [across, across === 0 ? 1.5 * down : down] as const),
);
/** Where on its way a sounding may be, the best first: nearer to where it begins, so that channels there and back have theirs apart. */
const SHARES = [0.42, 0.34, 0.5, 0.58, 0.26, 0.66, 0.74];
/** Square pixels of another that it may lie on rather than be one place further down that list, and rather than be on its other side. */
const [FURTHER, OTHER_SIDE] = [40, 60];
/** Times that each chooses anew, knowing where all others are. */
const ROUNDS = 3;

/**
 * Where each channel's sounding and words are best: on no card, and not on another's words, as far as there is room.
 *
 * @param cards what hides whatever is under it
 */
export function labelsOf(channels: readonly LabelledChannel[], cards: readonly Box[]): readonly PlacedLabel[] {
  const ways = channels.map(({ from, to, lane }) => channelWay(from, to, lane));
  const usual = channels.map(({ from, to }) => ({ share: SHARES[0], isRight: to.x + to.width / 2 >= from.x + from.width / 2 }));
  const chosen: ChannelLabel[] = [...usual];
  const boxesOf = (i: number, label: ChannelLabel) => boxesAt(ways[i].along(label.share), channels[i].text, label.isRight);
  const placed = chosen.map((label, i) => boxesOf(i, label));
  for (let round = 0; round < ROUNDS; round++) {
    channels.forEach((_, i) => {
      const others = [...cards, ...placed.flatMap((boxes, k) => (k === i ? [] : boxes))];
      let least = Infinity;
      SHARES.forEach((share, further) => {
        for (const isRight of [usual[i].isRight, !usual[i].isRight]) {
          const boxes = boxesOf(i, { share, isRight });
          const cost =
            boxes.reduce((sum, box) => sum + others.reduce((all, other) => all + shared(box, other), 0), 0) +
            further * FURTHER +
            (isRight === usual[i].isRight ? 0 : OTHER_SIDE);
          if (cost >= least) continue;
          least = cost;
          chosen[i] = { share, isRight };
          placed[i] = boxes;
        }
      });
    });
  }
  return chosen.map((label, i) => ({ ...label, picture: roomFor(ways[i].along(label.share), [...cards, ...placed.flat()]) }));
}

/** Of the places around a sounding the one where a picture lies on least. */
function roomFor([x, y]: readonly [number, number], others: readonly Box[]): readonly [number, number] {
  const { width, height } = PICTURE;
  const costs = AROUND.map(([across, down]) => {
    const own = { x: x + (across - 0.5) * width, y: y + (down - 0.5) * height, ...PICTURE };
    return others.reduce((all, other) => all + shared(own, other), FURTHER * Math.hypot(across, down));
  });
  const [across, down] = AROUND[costs.indexOf(Math.min(...costs))];
  return [across * width, down * height];
}

/** All that a chart shows: its cards, and the soundings and words of its channels. */
export function boundsOf(channels: readonly LabelledChannel[], labels: readonly ChannelLabel[], cards: readonly Box[]): Box {
  const all = [
    ...cards,
    ...channels.flatMap(({ from, to, lane, text }, i) =>
      boxesAt(channelWay(from, to, lane).along(labels[i].share), text, labels[i].isRight),
    ),
  ];
  const [x, y] = [Math.min(...all.map((box) => box.x)), Math.min(...all.map((box) => box.y))];
  return {
    ...{ x, y },
    width: Math.max(...all.map((box) => box.x + box.width)) - x,
    height: Math.max(...all.map((box) => box.y + box.height)) - y,
  };
}

/** A sounding, and the words beside it. */
function boxesAt([x, y]: readonly [number, number], text: string, isRight: boolean): readonly [Box, Box] {
  const { width, height } = sizeOf(text);
  return [
    { x: x - SOUNDING.width / 2, y: y - SOUNDING.height / 2, ...SOUNDING },
    { x: isRight ? x + BESIDE : x - BESIDE - width, y: y - height / 2, width, height },
  ];
}

/** About how much room words take, broken into lines as a page breaks them. */
function sizeOf(text: string): { readonly width: number; readonly height: number } {
  let [lines, width, longest] = [1, 0, 0];
  for (const word of text.split(' ')) {
    const own = word.length * LETTER;
    if (width > 0 && width + LETTER + own > WIDEST) [lines, width] = [lines + 1, 0];
    width += (width > 0 ? LETTER : 0) + own;
    longest = Math.max(longest, width);
  }
  return { width: Math.min(WIDEST, longest), height: lines * LINE };
}

/** Square pixels that two boxes share. */
function shared(a: Box, b: Box): number {
  const wide = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const high = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  return wide > 0 && high > 0 ? wide * high : 0;
}
