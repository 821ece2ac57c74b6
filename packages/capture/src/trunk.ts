import { RADIANS, type Random } from '@lantern/motion';
import type { JointName } from './figure';
import { smooth } from './gait-table';
import { glances } from './glances';
import type { FloorPath } from './path';
import type { Pelvis } from './pelvis';
import type { Person } from './person';
import { FINE, type Plan } from './plan-data';
import { aboutX, aboutY, aboutZ, between, chain, type Q } from './turns';
import type { Waiting } from './waiting';
import { wander } from './wander';

const TURN = 2 * Math.PI;

/** Seconds by which the eyes, and after them the shoulders, are ahead of the hips in a turn. Source: Hollands and others, 2001. */
const EYES_LEAD = 0.42;
const SHOULDERS_LEAD = 0.12;

/**
 * Pelvis, spine, neck and head over time. The thorax turns and lists against the pelvis and a little after it, comes forward when the
 * weight is taken, the shoulders go ahead into a turn; the head is kept level and on its course whatever the trunk does, and looks
 * about. Sources: Murray 1964; Krebs and others 1992; Crosbie and others 1997; Pozzo and others 1990; Hirasaki and others 1999.
 *
 * @returns sets the world rotations of a fine sample, and gives those from which the arms hang
 */
export function trunkMotion(
  hips: Pelvis,
  plan: Plan,
  path: FloorPath,
  { breath, waits, person }: { readonly breath: Float64Array; readonly waits: Waiting; readonly person: Person },
  random: Random,
): (globals: Map<JointName, Q>, i: number) => { readonly ribs: Q; readonly hang: Q } {
  const looks = glances(waits.still, random, person.mood.wary);
  const leans = wander(random, 13);
  const nods = wander(random, 5);
  const last = plan.samples - 1;
  const { facing } = plan.style;
  const headingIn = (i: number, seconds: number): number =>
    path.at(plan.distance[i] + seconds * plan.speed[i]).heading + facing + plan.spin[Math.min(last, i + Math.round(seconds * FINE))];

  return (globals, i) => {
    const t = i / FINE;
    const table = hips.tables[i];
    const u = plan.phase[i];
    const goes = smooth(plan.speed[i] / 1.1);
    const runs = smooth((table.elbow - 30) / 50);
    const own = person.trunk(u);
    const weight = waits.weight[i];
    const heading = hips.heading[i];

    // Twice a stride: forward while the weight is taken, back as he pushes off; a jog does more of it.
    const rocks = (1.1 + 1.0 * runs) * goes * own * Math.cos(2 * TURN * (u - 0.08 - 0.06 * runs));
    const lean = (hips.lean[i] + rocks + 0.5 * leans(t) - 0.7 * breath[i]) * RADIANS;
    // Over the leg that bears, where the pelvis drops on the other side; later than the pelvis by a tenth of a second.
    const lists = (2.4 + 0.6 * runs) * goes * own * Math.cos(TURN * (u - 0.24));
    const list = (lists + 3.2 * weight) * RADIANS + 0.8 * hips.bank[i] + 0.5 * person.shoulder;
    const twists = table.axial * (1.15 + 0.35 * runs) * own * Math.cos(TURN * (u - 0.04));
    const leads = headingIn(i, SHOULDERS_LEAD);
    const look = softly(headingIn(i, EYES_LEAD) - heading, 55 * RADIANS);
    const yaw = leads + (twists + 3 * weight) * RADIANS + 0.04 * looks.yaw[i];

    const pelvis = chain(aboutY(heading + hips.axial[i]), aboutZ(-hips.list[i]), aboutX(hips.tilt[i]));
    const ribs = chain(aboutY(yaw), aboutZ(-list), aboutX(lean));
    // The waist lags between the two: it has a share of each, and more of the one that turned before.
    const waist = between(pelvis, ribs, 0.52);

    // Level to about a third of what the trunk does; down when the head is carried up, so that the eyes stay on their point.
    const headPitch =
      2.5 +
      9 * person.mood.tired -
      3 * person.mood.brisk +
      0.22 * (rocks + 0.25 * hips.lean[i]) +
      1.3 * goes * own * Math.cos(2 * TURN * (u - 0.3)) +
      0.7 * nods(t) -
      0.35 * breath[i];
    const headRoll = 0.28 * list + person.headTilt + 0.6 * goes * Math.cos(TURN * (u - 0.3)) * RADIANS + 0.06 * looks.yaw[i];
    const headYaw = heading + look + looks.yaw[i] + (0.22 * twists + 0.8 * leans(t * 1.3)) * RADIANS;
    const head = chain(aboutY(headYaw), aboutZ(-headRoll), aboutX(headPitch * RADIANS + looks.pitch[i]));

    globals.set('Hips', pelvis);
    globals.set('Waist', waist);
    globals.set('Ribs', ribs);
    globals.set('Neck', between(ribs, head, 0.45));
    globals.set('Head', head);
    // Arms are pendulums: they take part in the trunk's turn and lean, and hang down whatever it lists.
    return { ribs, hang: chain(aboutY(yaw), aboutZ(-0.35 * list), aboutX(lean)) };
  };
}

/** Angle, softly kept below a limit. */
const softly = (radians: number, limit: number): number => limit * Math.tanh(radians / limit);
