'use client';
import { Box, ButtonBase, Typography } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useDropzone } from 'react-dropzone';
import { useSnackbar } from 'notistack';
import { fetchJson } from '@/data/fetch-json';
import type { CharacterRow } from '@/data/fits';
import { projectKey, useProjectInfo, type ProjectData } from '@/data/project';
import { Small } from '@/shell/Small';
import { chart } from '@/shell/theme';

/** The characters at hand, one of them open; a GLB is brought in here, and new clips are told whom to fit. */
export function CharacterBar({ data, open, onOpen }: { data: ProjectData; open: string | null; onOpen: (id: string) => void }) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const refresh = () => client.invalidateQueries({ queryKey: projectKey(project.id) });
  const say = (error: Error) => enqueueSnackbar(error.message, { variant: 'error' });
  const bring = useMutation({
    mutationFn: (file: File) =>
      fetchJson<CharacterRow>(`/api/projects/${project.id}/characters?file=${encodeURIComponent(file.name)}`, {
        method: 'POST',
        body: file,
      }),
    onSuccess: async (row) => {
      await refresh();
      for (const warning of row.facts.warnings) enqueueSnackbar(`${row.name}: ${warning}`, { variant: 'warning' });
      onOpen(row.id);
    },
    onError: say,
  });
  const remove = useMutation({
    mutationFn: (id: string) => fetchJson(`/api/projects/${project.id}/characters/${encodeURIComponent(id)}`, { method: 'DELETE' }),
    onSuccess: refresh,
    onError: say,
  });
  const fitTo = useMutation({
    mutationFn: (id: string) => fetchJson(`/api/projects/${project.id}`, { method: 'PATCH', body: JSON.stringify({ fitTo: id }) }),
    onSuccess: refresh,
    onError: say,
  });
  const {
    getRootProps,
    getInputProps,
    open: browse,
    isDragActive,
  } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: ([file]) => file && bring.mutate(file),
    // Takes are dropped anywhere else; here a GLB is a character.
    noDragEventsBubbling: true,
  });
  const shown = data.characters.find(({ id }) => id === open);
  return (
    <Box {...getRootProps()} sx={{ outline: isDragActive ? `2px dashed ${chart('lamp')}` : 'none', borderRadius: 1 }}>
      <input {...getInputProps({ 'aria-label': 'Character file' })} accept=".glb" />
      <Box role="radiogroup" aria-label="Character" sx={{ display: 'flex', gap: 0.8, flexWrap: 'wrap', alignItems: 'stretch' }}>
        {data.characters.map(({ id, name, facts }) => {
          const isOn = id === open;
          return (
            <ButtonBase
              key={id}
              role="radio"
              aria-checked={isOn}
              disableRipple
              onClick={() => onOpen(id)}
              sx={{
                display: 'block',
                textAlign: 'left',
                px: 1.2,
                py: 0.4,
                borderRadius: 1,
                border: '1px solid',
                borderColor: isOn ? chart('lamp') : chart('rule'),
                bgcolor: isOn ? chart('lampSoft') : chart('card'),
              }}
            >
              <Typography sx={{ fontFamily: 'Alegreya', fontSize: 17, lineHeight: 1.15 }}>{name}</Typography>
              <Typography variant="caption" color="text.secondary">
                {facts.statureM.toFixed(2)} m, {facts.joints} joints
              </Typography>
            </ButtonBase>
          );
        })}
        <ButtonBase
          disableRipple
          onClick={browse}
          sx={{
            px: 1.2,
            borderRadius: 1,
            border: `1px dashed ${chart('rule')}`,
            fontFamily: 'inherit',
            fontSize: 14.5,
            color: 'text.secondary',
          }}
        >
          {bring.isPending ? 'reading…' : 'bring in a GLB…'}
        </ButtonBase>
      </Box>
      {shown && (
        <Box sx={{ display: 'flex', alignItems: 'center', mt: 0.4, ml: -0.6 }}>
          <Small onClick={() => fitTo.mutate(data.project.fitTo === shown.id ? '' : shown.id)}>
            {data.project.fitTo === shown.id ? `✓ new clips are fitted to ${shown.name}` : `fit new clips to ${shown.name}`}
          </Small>
          <Box sx={{ flex: 1 }} />
          <Small name={`Remove ${shown.name}`} onClick={() => remove.mutate(shown.id)}>
            remove
          </Small>
        </Box>
      )}
    </Box>
  );
}
