'use client';
import { characterIn, type JoinPiece, type RecipeStep } from '@lantern/motion';
import { useMemo } from 'react';
import type { PieceAsked } from '@/worker/core.worker';
import { useClips, type ClipDoc } from './clips-store';
import { useWholeSteps } from './fits';
import { useJoins, type JoinDoc } from './joins-store';
import type { JoinedFrom, TakeInfo } from './project';
import { takeKey } from './use-open-take';

/** A piece with what the worker needs to know of it, and the take, or join, that has to be open for it. */
export type FoundPiece = PieceAsked & { readonly open: TakeInfo };

/** What clips are cut from, and what the pieces of joins come from. */
export interface Sources {
  /** Takes, then the joins that have pieces, seen as takes. */
  readonly all: readonly TakeInfo[];
  readonly pieceOf: (piece: JoinPiece) => FoundPiece | { readonly missing: string };
}

interface Known {
  readonly takes: readonly TakeInfo[];
  readonly docs: readonly ClipDoc[];
  readonly joins: readonly JoinDoc[];
  /** Puts what is settled for a take's suit into the steps of a clip of it. */
  readonly whole: (steps: readonly RecipeStep[], take: TakeInfo) => readonly RecipeStep[];
}

/** Finds what clips and pieces come from. A join whose pieces are not there, or that goes round, is there with its problem. */
export function findSources({ takes, docs, joins, whole }: Known): Sources {
  const found = new Map<string, TakeInfo | null>(takes.map((take) => [take.id, take]));
  const open = new Set<string>();
  const sourceOf = (id: string): TakeInfo | null => {
    const known = found.get(id);
    if (known !== undefined) return known;
    const join = joins.find((own) => own.id === id);
    if (!join) return null;
    open.add(id);
    const made = asTake(join, join.pieces.map(pieceOf), takes);
    open.delete(id);
    found.set(id, made);
    return made;
  };
  const pieceOf = (piece: JoinPiece): FoundPiece | { missing: string } => {
    const clip = 'clip' in piece ? docs.find(({ id }) => id === piece.clip) : undefined;
    if ('clip' in piece && !clip) return { missing: 'The clip of this piece was removed: take the piece out, or undo.' };
    const from = 'clip' in piece ? (clip?.source.take ?? '') : piece.take;
    if (open.has(from))
      return { missing: 'It is cut from this very join, which would go round: take the piece out, or bake the join first.' };
    const take = sourceOf(from);
    if (!take) return { missing: 'What this piece is cut from is not in the project any more.' };
    if (take.join && 'problem' in take.join) return { missing: `Join “${take.name}”, ${inSentence(take.join.problem)}` };
    const recipe = clip ? { from: clip.source.from, to: clip.source.to, steps: whole(clip.steps, take) } : null;
    return { piece, take: takeKey(take), recipe, open: take };
  };
  return { all: [...takes, ...joins.flatMap(({ id }) => sourceOf(id) ?? [])], pieceOf };
}

const inSentence = (text: string) => text[0].toLowerCase() + text.slice(1);

/** A join as clips are cut from it: like the take of its first piece, as far as it can be told without making it. Null without pieces. */
function asTake(
  { id, name, start }: JoinDoc,
  pieces: readonly (FoundPiece | { missing: string })[],
  takes: readonly TakeInfo[],
): TakeInfo | null {
  const known = pieces.filter((own): own is FoundPiece => 'open' in own);
  const base = known[0]?.open ?? takes[0];
  if (pieces.length === 0 || !base) return null;
  const steps = known.find(({ recipe }) => recipe)?.recipe?.steps;
  const character = (steps && characterIn(steps)) ?? characterOf(base);
  const missing = pieces.findIndex((own) => 'missing' in own);
  const join: JoinedFrom =
    missing >= 0
      ? { problem: problemAt(missing, pieces[missing] as { missing: string }) }
      : {
          asked: { id, start, pieces: known.map(({ piece, take, recipe: own }) => ({ piece, take, recipe: own })) },
          opens: [...new Map(known.map(({ open }) => [takeKey(open), open])).values()],
          character,
        };
  // On a character it has that one's skeleton: what is settled for the suit is done already.
  const suit = character === null ? { signature: base.signature, mapping: base.mapping } : { signature: '', mapping: undefined };
  const { project, frames, fps, skeleton, moving, passport, path, created } = base;
  return {
    ...{ id, project, name, file: '', frames, fps, skeleton, moving, passport, path, created, ...suit, join },
    ...{ overrides: {}, long: false, tags: [], notes: '', star: false, markers: [], props: [] },
  };
}

/** Why a piece cannot be used, with which one it is. */
export const problemAt = (index: number, { missing }: { readonly missing: string }): string => `Piece ${index + 1}: ${missing}`;

/** Whom a join's pieces are fitted to; null for a take. */
export const characterOf = ({ join }: TakeInfo): string | null => (join && 'character' in join ? join.character : null);

/** Whether a take is a certain join, or made of clips that are cut from it. */
export const isMadeOf = (take: TakeInfo, join: string): boolean =>
  take.id === join || (take.join !== undefined && 'opens' in take.join && take.join.opens.some((open) => isMadeOf(open, join)));

/** What clips are cut from, as it is now: what is cut from a join follows when a piece of it changes. */
export function useSources(takes: readonly TakeInfo[]): Sources {
  const docs = useClips((state) => state.docs);
  const joins = useJoins((state) => state.docs);
  const whole = useWholeSteps();
  return useMemo(() => findSources({ takes, docs, joins, whole }), [takes, docs, joins, whole]);
}
