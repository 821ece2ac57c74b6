import { useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useCallback, useState } from 'react';
import { useClips } from '@/data/clips-store';
import { useJoins, type JoinDoc } from '@/data/joins-store';
import { fetchJson } from '@/data/fetch-json';
import { projectKey, useProjectInfo, type TakeInfo } from '@/data/project';
import { uploadFile } from '@/data/upload';
import type { MadeFrom } from '@/http/made-from';
import { core } from '@/worker/core';
import { layoutOf, knownOf } from './layout';
import type { Seen } from './use-join-view';

/** Bakes a join into a take of exactly its frames, with its marks and what it was made of; the pieces stay as they are. */
export function useBakeJoin(doc: JoinDoc | null, seen: Seen | null, takes: readonly TakeInfo[]) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const [isBaking, setBaking] = useState(false);
  const bake = useCallback(() => {
    if (!doc || !seen || isBaking) return;
    setBaking(true);
    void (async () => {
      try {
        const text = await core().joinBake(seen.asked);
        if (typeof text !== 'string') throw new Error(text.problem);
        const name = `${doc.name}-baked`;
        const arrived = await uploadFile(project.id, new File([text], `${name}.bvh`), () => {}, new AbortController().signal);
        const [take] = arrived.takes;
        if (take) {
          const markers = marksOf(doc, seen);
          await fetchJson(`/api/takes/${take.id}`, {
            method: 'PATCH',
            body: JSON.stringify({
              made: historyOf(doc, takes),
              ...(markers.length > 0 && { markers }),
              ...(seen.view.platforms.length > 0 && { props: seen.view.platforms }),
            }),
          });
        }
        await client.invalidateQueries({ queryKey: projectKey(project.id) });
        enqueueSnackbar(
          take
            ? `“${take.name}” is a take of its own now, ${take.frames} frames.`
            : `It is a take already: “${arrived.duplicates[0] ?? name}”.`,
        );
      } catch (error) {
        enqueueSnackbar(error instanceof Error ? error.message : 'The join could not be baked.', { variant: 'error' });
      } finally {
        setBaking(false);
      }
    })();
  }, [doc, seen, isBaking, project.id, client, enqueueSnackbar, takes]);
  return { bake, isBaking };
}

/** The marks of all pieces, in frames of the join; one a frame. */
function marksOf(doc: JoinDoc, { pieces, view }: Seen): { frame: number; name: string }[] {
  const { placed, frames } = layoutOf(pieces, knownOf(pieces, view));
  const all = doc.pieces.flatMap((piece, i) => piece.marks.map(({ at, name }) => ({ frame: (placed[i]?.start ?? 0) + at, name })));
  const within = all.filter(({ frame }) => frame >= 0 && frame < frames);
  return [...new Map(within.map((mark) => [mark.frame, mark])).values()].sort((a, b) => a.frame - b.frame);
}

/** What a join was made of, as it stands. */
function historyOf({ id, name, pieces }: JoinDoc, takes: readonly TakeInfo[]): MadeFrom {
  const clips = useClips.getState();
  return {
    join: { id, name, revision: useJoins.getState().saved[id]?.revision ?? 0 },
    pieces: pieces.map((piece) => {
      const of = 'clip' in piece ? piece.clip : piece.take;
      const known = 'clip' in piece ? clips.docs.find((doc) => doc.id === of) : takes.find((take) => take.id === of);
      return {
        id: of,
        name: known?.name ?? of,
        kind: 'clip' in piece ? 'clip' : 'take',
        revision: 'clip' in piece ? (clips.saved[of]?.revision ?? null) : null,
        from: piece.from ?? null,
        to: piece.to ?? null,
        times: piece.times,
      };
    }),
  };
}
