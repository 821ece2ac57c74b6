import {
  asCaptured,
  balance,
  clipSmoothness,
  groundwork,
  jointWay,
  type Balance,
  type Clip,
  type ClipRecipe,
  type Motion,
  type Smoothness,
} from '@lantern/motion';
import type { View } from './clip-result';
import type { Held } from './held';

/** The way of a joint through a clip, before its pose was set right and after. */
export interface Arc {
  readonly joint: string;
  /** As the clip plays: place and turn, `WAY_WIDTH` numbers a frame. */
  readonly now: Float32Array;
  readonly smooth: Smoothness;
  /** The same as it was captured; null where the clip has other frames then. */
  readonly before: Float32Array | null;
  readonly was: Smoothness | null;
}

/** What an animator judges by eye: how arcs run, and whether the body stands. */
export interface Judged {
  readonly arcs: readonly Arc[];
  /** As the clip plays; null when it is not asked for, and for what is no person. */
  readonly balance: Balance | null;
}

export interface JudgedWish {
  /** By name; those that are not there are left out. */
  readonly joints: readonly string[];
  readonly balance: boolean;
}

/**
 * @param playedOn a clip as it plays
 */
export function judge(
  { run }: Held,
  recipe: ClipRecipe,
  wish: JudgedWish,
  playedOn: (clip: Clip, view: View) => Motion,
  view: View,
): Judged {
  const clip = run(recipe);
  const motion = playedOn(clip, view);
  const bare = capturedClip(run, recipe, clip);
  const captured = bare && playedOn(bare, view);
  const found = wish.balance ? groundwork(motion) : null;
  const { joints } = motion.skeleton;
  return {
    arcs: wish.joints.flatMap((name): Arc[] => {
      const joint = joints.findIndex((own) => own.name === name);
      if (joint < 0) return [];
      return [
        {
          joint: name,
          now: jointWay(motion, joint),
          smooth: clipSmoothness(clip, joint, bare ?? clip),
          before: captured && jointWay(captured, joint),
          was: bare && clipSmoothness(bare, joint),
        },
      ];
    }),
    balance: found && balance(found),
  };
}

/** The clip without what sets its poses right, as far as it then has the same frames of the same joints. */
function capturedClip(run: Held['run'], recipe: ClipRecipe, clip: Clip): Clip | null {
  const bare = run({ ...recipe, steps: asCaptured(recipe.steps) });
  const isAlike = bare.motion.frames === clip.motion.frames && bare.motion.skeleton.joints.length === clip.motion.skeleton.joints.length;
  return isAlike && bare.loop === clip.loop ? bare : null;
}
