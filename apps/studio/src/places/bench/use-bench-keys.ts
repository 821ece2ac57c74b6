import { addableSteps, aboutStep, type LoopCandidate, type RecipeStep, type StepKind } from '@lantern/motion';
import { useMemo, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useKeys } from '@/controls/use-keys';
import { useClips, type ClipDoc } from '@/data/clips-store';
import { useCorrecting } from '@/data/correcting';
import { useOfferCommands, type Command } from '@/shell/commands';
import type { GlassName } from './PreviewBar';
import type { Corrections } from './layers/use-corrections';
import { withStepOpened } from './recipe/add-step';
import type { Cut, Preview } from './use-bench';

interface Acts {
  readonly doc: ClipDoc | null;
  readonly candidates: readonly LoopCandidate[];
  readonly setPost: (which: 'from' | 'to') => void;
  readonly newClip: () => void;
  readonly splitHere: () => void;
  readonly duplicate: () => void;
  readonly otherSide: () => void;
  readonly bake: () => void;
  readonly remove: () => void;
  readonly propose: () => void;
  readonly takeLoop: (cut: Cut) => void;
  readonly worry: () => void;
  readonly markHere: () => void;
  readonly toEnd: (isStart: boolean) => void;
  readonly preview: Preview;
  readonly setPreview: (preview: Preview) => void;
  readonly glass: GlassName | null;
  readonly setGlass: (glass: GlassName | null) => void;
  readonly created: (kind: StepKind) => Promise<RecipeStep>;
  /** Joints are taken hold of on the stage, or no longer. */
  readonly correct: () => void;
  readonly corrections: Corrections;
  /** Shows the take where the playhead is. */
  readonly asCaptured: () => void;
}

/** The keys of the Bench, and what its command finder offers: every act of the place and of the open clip. */
export function useBenchKeys(acts: Acts): void {
  const { candidates, takeLoop, doc, preview, setPreview } = acts;
  const inPlace = () => doc && setPreview(preview === 'place' ? 'travel' : 'place');
  useKeys('i', () => acts.setPost('from'));
  useKeys('o', () => acts.setPost('to'));
  useKeys('n', acts.newClip);
  useKeys('x', acts.splitHere);
  useKeys('q', acts.worry);
  useKeys('y', acts.otherSide);
  useKeys('l', acts.markHere);
  useKeys('p', inPlace);
  useKeys('c', () => doc && acts.correct());
  useKeys('v', () => useCorrecting.setState(({ mode }) => ({ mode: mode === 'turn' ? 'grab' : 'turn' })));
  useKeys('e', acts.corrections.peg);
  useKeys('u', acts.corrections.otherSide);
  useChainKeys(acts.corrections);
  useCapturedWhileHeld(acts);
  useKeys('home', () => acts.toEnd(true), 'arrows');
  useKeys('end', () => acts.toEnd(false), 'arrows');
  useKeys('1,2,3,4,5,6,7,8,9', (event) => {
    const candidate = candidates[Number(event.key) - 1];
    if (candidate) takeLoop(candidate);
  });
  useOfferCommands('bench', usePlaceCommands(acts));
  useOfferCommands('clip', useClipCommands(acts));
}

/** While H is held the take is seen as it was captured. */
function useCapturedWhileHeld({ doc, preview, setPreview, asCaptured }: Acts): void {
  const before = useRef<Preview | null>(null);
  const end = () => {
    if (before.current) setPreview(before.current);
    before.current = null;
  };
  useKeys('h', () => {
    if (!doc || before.current || preview === 'take') return;
    before.current = preview;
    asCaptured();
  });
  useHotkeys('h', end, { keyup: true, keydown: false });
}

/** Tab goes along the chain of the joint that is taken hold of, to what hangs from it first, with Shift back; Escape lets go. */
function useChainKeys({ isOn, joint, skeleton }: Corrections): void {
  const along = (by: 1 | -1) => {
    if (!skeleton) return;
    const { joints } = skeleton;
    const next = by < 0 ? joints[joint].parent : joints.findIndex(({ parent }) => parent === joint);
    if (next >= 0) useCorrecting.setState({ joint: joints[next].name });
  };
  // In a field or on a button Tab goes on to the next of them.
  const isElsewhere = ({ target }: { target: EventTarget | null }) =>
    !isOn || joint < 0 || (target instanceof Element && target.closest('body') !== target && target.tagName !== 'CANVAS');
  const options = { preventDefault: true, ignoreEventWhen: isElsewhere };
  useHotkeys('tab', () => along(1), options);
  useHotkeys('shift+tab', () => along(-1), options);
  useHotkeys('escape', () => useCorrecting.setState({ joint: null }), { ignoreEventWhen: isElsewhere });
}

/** What can be done without a clip. */
function usePlaceCommands({ candidates, newClip, markHere, propose, takeLoop, glass, setGlass }: Acts): Command[] {
  return useMemo(
    () => [
      { id: 'new-clip', label: 'New clip', keys: 'N', run: newClip },
      { id: 'mark', label: 'A marker at the playhead', keys: 'L', run: markHere },
      { id: 'propose', label: 'Clips that this take offers', run: propose },
      { id: 'map', label: 'Recurrence map of the take', run: () => setGlass(glass === 'map' ? null : 'map') },
      ...candidates.slice(0, 9).map((c, i) => ({
        id: `loop-${i}`,
        label: `Take loop ${i + 1}: ${c.seconds.toFixed(2)} s, ${c.seam.poseCm.toFixed(1)} cm`,
        keys: String(i + 1),
        run: () => takeLoop(c),
      })),
    ],
    [newClip, markHere, propose, candidates, takeLoop, glass, setGlass],
  );
}

const NO_COMMANDS: Command[] = [];

/** What can be done to the open clip, and to each of its steps. */
function useClipCommands(acts: Acts): Command[] {
  const { doc, setPost, splitHere, duplicate, otherSide, bake, remove, worry, setPreview, glass, setGlass, created, correct } = acts;
  return useMemo(() => {
    if (!doc) return NO_COMMANDS;
    return [
      { id: 'in-post', label: 'In post to the playhead', keys: 'I', run: () => setPost('from') },
      { id: 'out-post', label: 'Out post to the playhead', keys: 'O', run: () => setPost('to') },
      { id: 'split-clip', label: 'Split this clip at the playhead', keys: 'X', run: splitHere },
      { id: 'duplicate-clip', label: 'Duplicate this clip', run: duplicate },
      { id: 'other-side', label: 'Make the other side of this clip', keys: 'Y', run: otherSide },
      { id: 'bake', label: 'Bake this clip to a take of its own', run: bake },
      { id: 'remove-clip', label: 'Remove this clip', run: remove },
      { id: 'worry', label: 'Worry the seam: play the half second around it', keys: 'Q', run: worry },
      { id: 'correct', label: 'Take hold of joints on the stage', keys: 'C', run: correct },
      { id: 'loupe', label: 'Loupe over the seam', run: () => setGlass(glass === 'loupe' ? null : 'loupe') },
      { id: 'see-take', label: 'See the take as captured', run: () => setPreview('take') },
      { id: 'see-place', label: 'See the clip in place', keys: 'P', run: () => setPreview('place') },
      { id: 'see-travel', label: 'See the clip travelling', run: () => setPreview('travel') },
      ...stepCommands(doc, created),
    ];
  }, [doc, setPost, splitHere, duplicate, otherSide, bake, remove, worry, setPreview, glass, setGlass, created, correct]);
}

function stepCommands(doc: ClipDoc, created: Acts['created']): Command[] {
  const { put } = useClips.getState();
  const change = (step: RecipeStep) => put({ ...doc, steps: doc.steps.map((s) => (s.id === step.id ? step : s)) });
  return [
    ...addableSteps(doc.steps).map(({ kind, title, about }) => ({
      id: `add-${kind}`,
      label: `Add a step: ${title}. ${about}`,
      run: () => void created(kind).then((step) => put(withStepOpened(doc, step))),
    })),
    ...doc.steps.flatMap((step) => {
      const { title } = aboutStep(step.kind);
      return [
        {
          id: `off-${step.id}`,
          label: `Switch ${title} ${step.off ? 'on' : 'off'}`,
          run: () => change({ ...step, off: step.off ? undefined : true }),
        },
        {
          id: `remove-${step.id}`,
          label: `Remove the step ${title}`,
          run: () => put({ ...doc, steps: doc.steps.filter(({ id }) => id !== step.id) }),
        },
      ];
    }),
  ];
}
