import { WAY_WIDTH } from '@lantern/motion';
import { trailParts, type TrailPart } from '@/stage/trail-parts';

/** Ten frames along x, a metre a second, in frames 3 to 6 and in frame 8 raised by so much. */
function way(raised: number): Float32Array {
  const points = new Float32Array(10 * WAY_WIDTH);
  for (let f = 0; f < 10; f++) {
    points[f * WAY_WIDTH] = f / 60;
    points[f * WAY_WIDTH + 1] = (f >= 3 && f <= 6) || f === 8 ? raised : 0;
  }
  return points;
}

/** The frames of what is drawn in a range, in order. */
function frames({ drawn, range }: TrailPart, from: number, to: number): number[] {
  const [start, count] = range(from, to);
  const index = drawn.geometry.getIndex();
  return Array.from({ length: count }, (_, i) => index?.getX(start + i) ?? start + i);
}

test('a trail is a line with a dot a frame, of the frames that are asked for', () => {
  const parts = trailParts({ joint: 'LeftHand', points: way(0) }, 60);
  expect(parts.map(({ drawn }) => drawn.type)).toEqual(['Line', 'Points']);
  for (const part of parts) {
    expect(frames(part, 2, 5)).toEqual([2, 3, 4]);
    expect(frames(part, 7, 100)).toEqual([7, 8, 9]);
    expect(frames(part, 20, 30)).toEqual([]);
  }
});

test('where it was captured is drawn where it was elsewhere only, and every place of it is a number', () => {
  const [, , links, dots] = trailParts({ joint: 'LeftHand', points: way(0), before: way(0.01) }, 60);
  expect([links.drawn.type, dots.drawn.type]).toEqual(['LineSegments', 'Points']);
  // No link over what was in the same place, and frame 8 stands alone.
  expect(frames(links, 0, 100)).toEqual([3, 4, 4, 5, 5, 6]);
  expect(frames(dots, 0, 100)).toEqual([3, 4, 5, 6, 8]);
  expect(frames(links, 4, 6)).toEqual([4, 5]);
  expect(frames(dots, 4, 6)).toEqual([4, 5]);
  expect(frames(links, 0, 4)).toEqual([]);
  for (const { drawn } of [links, dots]) {
    const places = drawn.geometry.getAttribute('position');
    for (let f = 0; f < places.count; f++) expect(places.getX(f) + places.getY(f) + places.getZ(f)).not.toBeNaN();
  }
});

test('what was captured in the same place is not drawn a second time', () => {
  const [, , links, dots] = trailParts({ joint: 'LeftHand', points: way(0), before: way(0.001) }, 60);
  expect([frames(links, 0, 10), frames(dots, 0, 10)]).toEqual([[], []]);
});
