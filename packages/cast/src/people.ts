import { mixed, plus, type Vec3 } from '@lantern/motion';
import type { BuiltJoint } from './build';
import { cloth, knob, type Cloth } from './cloth';
import { alongRun, bare, loft, type Flesh, type Ring, type Run, type Weights } from './flesh';

/** Sections along a run of bones: where (as a share of its length), half widths, colour, and a shift to the front. */
export type Sections = readonly (readonly [share: number, wide: number, deep: number, colour: Vec3, front?: number])[];

/** What a person is made of. Names are joints of the build. */
export interface Dress {
  readonly joints: readonly BuiltJoint[];
  readonly trunk: { readonly run: readonly string[]; readonly sections: Sections };
  readonly head: { readonly joint: string; readonly crown: number; readonly sections: Sections; readonly nose: Vec3; readonly eyes: Vec3 };
  /** For both sides, `leg` from the thigh to the ankle, `arm` from the collar to the wrist. */
  readonly sides: readonly {
    readonly leg: readonly string[];
    readonly legSections: Sections;
    readonly foot: readonly [foot: string, toes: string | null];
    readonly boot: { readonly half: number; readonly height: number; readonly colour: Vec3 };
    readonly arm: readonly string[];
    readonly armSections: Sections;
    readonly palm: { readonly run: readonly string[]; readonly sections: Sections };
    readonly fingers: readonly { readonly run: readonly string[]; readonly thick: number }[];
  }[];
  readonly skin: Vec3;
  /** Coats, aprons, collars, scarves. */
  readonly cloths?: readonly Cloth[];
  /** Buttons and knots. */
  readonly knobs?: readonly { readonly at: Vec3; readonly size: number; readonly colour: Vec3; readonly weights: Weights }[];
}

const BLEND = 0.07;

/** A low figure with weights that fade from bone to bone. */
export function fleshOf(dress: Dress): Flesh {
  const flesh = bare();
  const jointOf = (name: string): BuiltJoint => {
    const found = dress.joints.find((joint) => joint.name === name);
    if (!found) throw new Error(`The build has no joint "${name}".`);
    return found;
  };
  const runOf = (names: readonly string[]): Run => {
    const joints = names.map(jointOf);
    return { joints: joints.map(({ name, at }) => ({ name, at })), end: joints[joints.length - 1].to };
  };
  const tube = (names: readonly string[], sections: Sections, side: Vec3, round = 12, blend = BLEND) => {
    const run = alongRun(runOf(names), blend);
    const rings = sections.map(([share, wide, deep, colour, front = 0]): Ring => {
      const s = share * run.length;
      const weights = run.weights(s);
      return { at: plus(run.at(s), [0, 0, front]), wide, deep, colour, weights: () => weights };
    });
    loft(flesh, rings, { side, round });
  };

  tube(dress.trunk.run, dress.trunk.sections, [1, 0, 0], 16);
  headOf(flesh, jointOf(dress.head.joint), dress);
  for (const { leg, legSections, foot, boot, arm, armSections, palm, fingers } of dress.sides) {
    tube(leg, legSections, [1, 0, 0]);
    bootOf(flesh, jointOf(foot[0]), foot[1] === null ? null : jointOf(foot[1]), boot);
    tube(arm, armSections, [0, 0, 1]);
    tube(palm.run, palm.sections, [0, 0, 1], 10, 0.02);
    for (const { run, thick } of fingers) {
      const sections = [0.05, 0.3, 0.7, 0.95].map((s, i) => [s, thick * [1, 1.05, 0.95, 0.6][i], thick, dress.skin] as const);
      tube(run, sections, [0, 0, 1], 8, 0.012);
    }
  }
  for (const own of dress.cloths ?? []) cloth(flesh, own);
  for (const own of dress.knobs ?? []) knob(flesh, own);
  return flesh;
}

const EYES: Vec3 = [0.02, 0.018, 0.016];

function headOf(flesh: Flesh, { name, at }: BuiltJoint, { head: { crown, sections, nose, eyes }, skin }: Dress): void {
  const only = () => [[name, 1]] as const;
  const ring = ([share, wide, deep, colour, front = 0]: Sections[number]): Ring => ({
    at: [at[0], at[1] + share * (crown - at[1]), at[2] + front],
    wide,
    deep,
    colour,
    weights: only,
  });
  loft(flesh, sections.map(ring), { side: [1, 0, 0], round: 14 });
  const tip = plus(at, nose);
  const noseRings = [
    { at: plus(tip, [0, 0.012, -0.035]), wide: 0.012, deep: 0.016, colour: skin, weights: only },
    { at: plus(tip, [0, 0, -0.012]), wide: 0.014, deep: 0.02, colour: skin, weights: only },
    { at: tip, wide: 0.006, deep: 0.01, colour: skin, weights: only },
  ];
  loft(flesh, noseRings, { side: [1, 0, 0], round: 6 });
  for (const sign of [1, -1]) {
    const eye = plus(at, [sign * eyes[0], eyes[1], eyes[2]]);
    const rings = [-0.011, -0.005, 0.005, 0.011].map((up, i) => {
      const wide = i === 0 || i === 3 ? 0.004 : 0.0085;
      return { at: plus(eye, [0, up, 0]), wide, deep: wide, colour: EYES, weights: only };
    });
    loft(flesh, rings, { side: [1, 0, 0], round: 8 });
  }
}

/** A boot with a flat sole at height 0: from behind the ankle to the end of the toes. */
function bootOf(flesh: Flesh, foot: BuiltJoint, toes: BuiltJoint | null, { half, height, colour }: Dress['sides'][number]['boot']): void {
  const end = toes ? toes.to : foot.to;
  const ball = toes ? toes.at : mixed(foot.at, foot.to, 0.62);
  const heel: Vec3 = [foot.at[0], 0, foot.at[2] - 0.42 * (ball[2] - foot.at[2])];
  const place = (t: number): Vec3 => {
    const onto = t < 0.6 ? mixed(heel, [ball[0], 0, ball[2]], t / 0.6) : mixed([ball[0], 0, ball[2]], [end[0], 0, end[2]], (t - 0.6) / 0.4);
    return onto;
  };
  const shape: readonly (readonly [number, number, number])[] = [
    [0, 0.5, 0.45],
    [0.05, 0.8, 0.85],
    [0.2, 0.92, 1],
    [0.38, 0.95, 0.95],
    [0.55, 1.08, 0.62],
    [0.66, 1.1, 0.5],
    [0.85, 0.95, 0.42],
    [0.96, 0.7, 0.34],
    [1, 0.35, 0.2],
  ];
  const rings = shape.map(([t, wide, tall]): Ring => {
    const share = toes ? Math.min(1, Math.max(0, (t - 0.52) / 0.16)) : 0;
    const weights = toes
      ? ([
          [foot.name, 1 - share],
          [toes.name, share],
        ] as const)
      : ([[foot.name, 1]] as const);
    const [x, , z] = place(t);
    // Its middle is low, so that all below the floor is cut off flat.
    return {
      at: [x, 0.3 * tall * height, z],
      wide: half * wide,
      deep: 0.7 * tall * height,
      colour,
      weights: () => weights.filter(([, w]) => w > 0),
    };
  });
  loft(flesh, rings, { side: [1, 0, 0], round: 14, level: 0 });
}
