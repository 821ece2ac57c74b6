'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useDropzone } from 'react-dropzone';
import { fetchAs } from '@/data/fetch-json';
import { characterSchema } from '@/http/project';
import { projectKey, useProjectInfo } from '@/data/project';
import { useImportDesk } from '@/shell/ImportDesk';

/** Characters come in by dropping a GLB anywhere in the place, or by choosing one; other files are takes, here as elsewhere. */
export function useBringCharacter(onOpen: (id: string) => void) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const { bringIn } = useImportDesk();
  const bring = useMutation({
    mutationFn: (file: File) =>
      fetchAs(characterSchema, `/api/projects/${project.id}/characters?file=${encodeURIComponent(file.name)}`, {
        method: 'POST',
        body: file,
      }),
    onSuccess: async (row) => {
      await client.invalidateQueries({ queryKey: projectKey(project.id) });
      for (const warning of row.facts.warnings) enqueueSnackbar(`${row.name}: ${warning}`, { variant: 'warning' });
      onOpen(row.id);
    },
    onError: (error) => enqueueSnackbar(error.message, { variant: 'error' }),
  });
  const { getRootProps, getInputProps, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    noDragEventsBubbling: true,
    onDrop: (files) => {
      const isCharacter = (file: File) => /\.glb$/i.test(file.name);
      for (const file of files.filter(isCharacter)) bring.mutate(file);
      const takes = files.filter((file) => !isCharacter(file));
      if (takes.length > 0) void bringIn(takes);
    },
  });
  return { getRootProps, getInputProps, browse: open, isReading: bring.isPending };
}
