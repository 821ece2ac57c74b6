import { addFoot, blendPoses, frameAt } from './blend';
import { clipPhase, stridesAt, whenAtPhase } from './clip-phase';
import { FOOT, footTracks } from './legs';
import type { Memory } from './memory';
import { normalize } from './quat';
import { SIDES, type PlayClip, type PlaySkeleton } from './play-set';
import type { Source } from './source';

/** A clip as a source of poses; played once it stays at its last key. */
export function clipSource(skeleton: PlaySkeleton, clip: PlayClip, isLooped: boolean, memory: Memory): Source {
  const loops = isLooped && clip.loop;
  const last = (clip.frames - 1) / clip.fps;
  const track = footTracks(skeleton, clip);
  const phases = clipPhase(clip, loops);
  const clock = memory.take(1);
  const clips = [clip];
  const at = new Float64Array(1);
  const weights = Float64Array.of(1);
  const events = eventsOf(clip, last, loops);
  const [before, after] = [new Float64Array(3), new Float64Array(3)];
  const rootAt = (out: Float64Array, seconds: number): void => {
    const [a, b, u] = frameAt(clip, seconds);
    for (let k = 0; k < 3; k++) out[k] = clip.root[a * 3 + k] * (1 - u) + clip.root[b * 3 + k] * u;
  };
  return {
    loops,
    enter(place) {
      clock[0] = loops ? (place - Math.floor(place)) * last : Math.max(0, Math.min(1, place)) * last;
    },
    at: () => (last > 0 ? clock[0] / last : 0),
    phase: () => {
      if (!phases) return NaN;
      const strides = stridesAt(phases, clock[0]);
      return strides - Math.floor(strides);
    },
    atPhase: (phase) => {
      const seconds = phases ? whenAtPhase(phases, phase) : NaN;
      return seconds > last ? NaN : seconds / last;
    },
    seconds: () => last,
    clip: () => clip,
    clipSeconds: () => clock[0],
    advance(seconds, gone) {
      const t = clock[0];
      let stop = last;
      for (let i = 0; i < events.length; i++) if (events[i] > t + 1e-9 && events[i] < stop) stop = events[i];
      if (stop <= t + 1e-9) return seconds;
      const own = Math.min(seconds, stop - t);
      const now = own < seconds || t + own >= stop - 1e-9 ? stop : t + own;
      // A loop is read within one cycle, so that the way goes on over its seam.
      rootAt(before, t);
      if (now >= last) {
        const o = (clip.frames - 1) * 3;
        for (let k = 0; k < 3; k++) after[k] = clip.root[o + k];
      } else rootAt(after, now);
      const turn = after[2] - before[2];
      const facing = before[2] + turn / 2;
      const c = Math.cos(facing),
        s = Math.sin(facing);
      const dx = after[0] - before[0],
        dz = after[1] - before[1];
      gone[0] += c * dx - s * dz;
      gone[1] += s * dx + c * dz;
      gone[2] += turn;
      clock[0] = loops && now >= last - 1e-9 ? 0 : now;
      return own;
    },
    pose(rotations, hips, posed, down) {
      at[0] = clock[0];
      blendPoses(rotations, hips, clips, at, weights, 0);
      for (let side = 0; side < 2; side++) {
        const o = side * FOOT;
        for (let k = 0; k < FOOT; k++) posed[o + k] = 0;
        addFoot(posed, o, track, clip, side, clock[0], 1, FOOT);
        normalize(posed, o + 3);
        normalize(posed, o + 7);
        down[side] = bears(clip, side, clock[0], loops ? last : 0) ? 1 : 0;
      }
    },
  };
}

/** Whether a foot is on the floor at an instant; in a loop contacts go on over its end by a cycle. */
function bears(clip: PlayClip, side: number, t: number, cycle: number): boolean {
  const contacts = clip.contacts[SIDES[side]];
  for (let i = 0; i < contacts.length; i++) {
    const contact = contacts[i];
    if (t >= contact[0] - 1e-9 && t < contact[1] - 1e-9) return true;
    if (cycle > 0 && t + cycle >= contact[0] - 1e-9 && t + cycle < contact[1] - 1e-9) return true;
  }
  return false;
}

/** Instants at which a foot lands or lifts, within the clip. */
function eventsOf({ contacts }: PlayClip, last: number, loops: boolean): Float64Array {
  const all = SIDES.flatMap((side) => contacts[side].flatMap(([from, to]) => (loops ? [from % last, to % last] : [from, to])));
  return Float64Array.from(new Set(all.filter((t) => t > 0 && t < last))).sort();
}
