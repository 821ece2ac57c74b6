import { useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useCallback } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { useWholeSteps } from '@/data/fits';
import { projectKey, useProjectInfo, type TakeInfo } from '@/data/project';
import { uploadFile } from '@/data/upload';
import { ensureOpen, takeKey } from '@/data/use-open-take';
import { core } from '@/worker/core';

/** Bakes a clip: what its recipe makes of it now becomes a take of its own. The clip stays as it is. */
export function useBake(take: TakeInfo | null, doc: ClipDoc | null): () => void {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const whole = useWholeSteps();
  return useCallback(() => {
    if (!take || !doc) return;
    void (async () => {
      try {
        await ensureOpen(take);
        const text = await core().bake(takeKey(take), { from: doc.source.from, to: doc.source.to, steps: whole(doc.steps, take) });
        const name = `${doc.name}-baked`;
        const arrived = await uploadFile(project.id, new File([text], `${name}.bvh`), () => {}, new AbortController().signal);
        await client.invalidateQueries({ queryKey: projectKey(project.id) });
        enqueueSnackbar(
          arrived.takes.length > 0
            ? `“${arrived.takes[0].name}” is a take of its own now.`
            : `It is a take already: “${arrived.duplicates[0] ?? name}”.`,
        );
      } catch (error) {
        enqueueSnackbar(error instanceof Error ? error.message : 'The clip could not be baked.', { variant: 'error' });
      }
    })();
  }, [take, doc, project.id, client, enqueueSnackbar, whole]);
}
