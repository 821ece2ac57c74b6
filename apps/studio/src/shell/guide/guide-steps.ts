/** One step of the first way through the program. */
export interface GuideStep {
  readonly title: string;
  /** What is there to be seen, and what to do. */
  readonly says: string;
  /** Which place it is at, and what is open there in the demo project, by name. */
  readonly place: 'takes' | 'bench' | 'set' | 'drive' | 'ship';
  readonly opens?: { readonly kind: 'take' | 'clip'; readonly name: string };
}

/** From what was captured to what ships, on the demo set. */
export const GUIDE: readonly GuideStep[] = [
  {
    title: 'Look at a take',
    place: 'takes',
    opens: { kind: 'take', name: 'wick-rounds' },
    says: 'A take is what the suit recorded. Space plays it; the passport beside it says whether its scale and rate can be trusted.',
  },
  {
    title: 'Close a loop',
    place: 'bench',
    opens: { kind: 'clip', name: 'stroll-forward' },
    says: 'A clip is cut from a take and made seamless by its recipe. Open a step to change it, or drag a cut post on the deck; undo takes back everything.',
  },
  {
    title: 'See what the set holds',
    place: 'set',
    says: 'A set is what a game asks for, slot by slot. A slot without a clip says what is lacking: choose one to have it filled from what there is.',
  },
  {
    title: 'Drive it',
    place: 'drive',
    says: 'Hold W to walk, with Shift to jog; A and D turn. The staffs measure what a player would see: feet that slide, a body that jumps.',
  },
  {
    title: 'Ship it',
    place: 'ship',
    says: 'Every figure stands beside its bound, worst first. What is ready goes out as GLB with a manifest; nothing is sent anywhere.',
  },
];
