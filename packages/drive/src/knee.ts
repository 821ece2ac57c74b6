/** A knee is bent more or less than its pose has it with no more than this acceleration, radians a second each second: it would snap otherwise as a leg gets straight, or lets go. */
const MOST_ACCELERATION = 300;

/** A foot that bears has to stay where it is: for its knee that grows by once itself in every `FIRMER` seconds, up to so many times. */
const BEARING = 2;
const FIRMER = 0.03;
/** Before it is straight it brakes as hard as so many times that. */
const BRAKES = 3;

/** Numbers of a knee: by how much it is bent beyond its pose, its rate, a second, what was wanted, the least that it may be, 1 once all that is known, and seconds since the foot bears. */
export const KNEE = 6;
const [BENT, RATE, WANTED, LEAST, KNOWN, BEARS] = [0, 1, 2, 3, 4, 5];

/**
 * By how much a knee is bent beyond its pose, radians: what is wanted, unless that changes too abruptly; then it comes after it, and has caught up with it as soon
 * as it can.
 *
 * @param knee in place: see `KNEE`
 * @param least it is bent no less than this; it slows down before it is
 * @param seconds since the last call; 0 where the pose was put there
 */
export function bendKnee(knee: Float64Array, wanted: number, least: number, bears: boolean, seconds: number): number {
  knee[BEARS] = bears ? knee[BEARS] + seconds : 0;
  const quickest = MOST_ACCELERATION * Math.min(BEARING, 1 + knee[BEARS] / FIRMER);
  let [bent, rate] = [wanted, 0];
  if (seconds > 0 && knee[KNOWN] > 0) {
    const behind = knee[WANTED] - knee[BENT];
    const catches = stopsWithin(Math.abs(behind), quickest, seconds);
    const asked = (wanted - knee[WANTED]) / seconds + (behind < 0 ? -catches : catches);
    const slowest = (least - knee[LEAST]) / seconds - stopsWithin(Math.max(0, knee[BENT] - knee[LEAST]), quickest, seconds);
    const most = quickest * seconds;
    // However short a step is, and however much has changed in it, the rate changes by no more than that.
    const by = Math.max(-most, Math.min(most, asked - knee[RATE]));
    rate = knee[RATE] + Math.max(by, Math.min(BRAKES * most, slowest - knee[RATE]));
    bent = Math.max(least, knee[BENT] + rate * seconds);
  }
  knee[BENT] = bent;
  knee[RATE] = rate;
  knee[WANTED] = wanted;
  knee[LEAST] = least;
  knee[KNOWN] = 1;
  return bent;
}

/** The rate from which it comes to rest within so many radians, slowing down as hard as it may in every step but the last. */
function stopsWithin(radians: number, quickest: number, seconds: number): number {
  const least = quickest * seconds;
  const steps = Math.max(1, Math.ceil((Math.sqrt(1 + (8 * radians) / (least * seconds)) - 1) / 2));
  return radians / (steps * seconds) + (least * (steps - 1)) / 2;
}
