/** What is promised of every shipment, in the order in which it is told. */
export const GUARANTEES = {
  root: 'one root joint, at the origin and facing +Z on the first frame',
  joints: 'the same joints, order, names and bind pose in every file',
  frames: 'keys on whole frames',
  loops: 'a loop’s last key is its first, one cycle on',
  scale: 'no scale keys',
  signs: 'rotations of one sign from key to key',
  names: 'names that are unique and that every file system takes',
  skin: 'a skin and a mesh',
  valid: 'no error and no warning of the glTF validator',
  poses: 'every pose read back where it was',
} as const;
export type GuaranteeId = keyof typeof GUARANTEES;

/** A promise, held against the bytes that were written. */
export interface Guarantee {
  readonly id: GuaranteeId;
  readonly what: string;
  readonly ok: boolean;
  /** What breaks it, by file and clip, or what was measured where it holds. */
  readonly found: readonly string[];
}

/** What one written file shows. */
export interface FileFacts {
  readonly path: string;
  /** What breaks a promise, in words. */
  readonly breaks: readonly { readonly id: GuaranteeId; readonly says: string }[];
  /** What is worth saying though nothing is broken. */
  readonly notes: readonly { readonly id: GuaranteeId; readonly says: string }[];
  /** Whose joints they are: told apart where a shipment has several characters. */
  readonly owner: string;
  /** The joints, their order, names and bind pose, as one text. */
  readonly joints: string;
  /** How far a point within 10 cm of a joint is at the most from where it was, and where; null where nothing was compared. */
  readonly poses: {
    readonly mm: number;
    readonly betweenMm: number;
    readonly clip: string;
    readonly joint: string;
    readonly frame: number;
  } | null;
  /** Whether a validator has seen it. */
  readonly isValidated: boolean;
}

/** Breaks that are listed of one promise, at the most. */
const MOST_LISTED = 8;

/** All promises of a shipment, by what its files show. */
export function guarantees(files: readonly FileFacts[]): Guarantee[] {
  const breaks = files.flatMap(({ path, breaks: own }) => own.map(({ id, says }) => ({ id, says: `${path}: ${says}` })));
  const first = new Map<string, FileFacts>();
  for (const file of files) {
    const other = first.get(file.owner);
    if (!other) first.set(file.owner, file);
    else if (other.joints !== file.joints) breaks.push({ id: 'joints', says: `${file.path}: its joints are not those of ${other.path}.` });
  }
  return (Object.keys(GUARANTEES) as GuaranteeId[]).flatMap((id): Guarantee[] => {
    if (id === 'valid' && !files.some(({ isValidated }) => isValidated)) return [];
    const own = breaks.filter((each) => each.id === id).map(({ says }) => says);
    const more = own.length > MOST_LISTED ? [`and ${own.length - MOST_LISTED} more`] : [];
    const notes = files.flatMap((file) => [
      ...file.notes.filter((each) => each.id === id).map(({ says }) => `${file.path}: ${says}`),
      ...(id === 'poses' && file.poses ? [posesOf(file.path, file.poses)] : []),
    ]);
    return [{ id, what: GUARANTEES[id], ok: own.length === 0, found: own.length > 0 ? [...own.slice(0, MOST_LISTED), ...more] : notes }];
  });
}

const posesOf = (path: string, { mm, betweenMm, clip, joint, frame }: NonNullable<FileFacts['poses']>): string =>
  `${path}: ${mm.toFixed(3)} mm at the most, ${joint} of ${clip} at frame ${frame}${betweenMm > 0 ? `; half-way between frames ${betweenMm.toFixed(3)} mm` : ''}.`;
