'use client';
import { Sign } from '@/controls/Sign';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, ButtonBase, Typography } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { fetchJson } from '@/data/fetch-json';
import { projectKey, useProjectInfo, type ProjectData } from '@/data/project';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';

/** The characters at hand, one of them open; a GLB is brought in here, and new clips are told whom to fit. */
export function CharacterBar({
  data,
  open,
  isReading,
  onOpen,
  onBrowse,
}: {
  data: ProjectData;
  open: string | null;
  isReading: boolean;
  onOpen: (id: string) => void;
  onBrowse: () => void;
}) {
  const project = useProjectInfo();
  const client = useQueryClient();
  const { enqueueSnackbar } = useSnackbar();
  const refresh = () => client.invalidateQueries({ queryKey: projectKey(project.id) });
  const say = (error: Error) => enqueueSnackbar(error.message, { variant: 'error' });
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
  const shown = data.characters.find(({ id }) => id === open);
  return (
    <Box>
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
          onClick={onBrowse}
          sx={{
            px: 1.2,
            borderRadius: 1,
            border: `1px dashed ${chart('rule')}`,
            fontFamily: 'inherit',
            fontSize: 14.5,
            color: 'text.secondary',
          }}
        >
          {isReading ? 'reading…' : 'bring in a GLB…'}
        </ButtonBase>
      </Box>
      {shown && (
        <Box sx={{ display: 'flex', alignItems: 'center', mt: 0.4, ml: -0.6 }}>
          <Small onClick={() => fitTo.mutate(data.project.fitTo === shown.id ? '' : shown.id)}>
            {data.project.fitTo === shown.id ? `✓ new clips are fitted to ${shown.name}` : `fit new clips to ${shown.name}`}
          </Small>
          <Box sx={{ flex: 1 }} />
          <Sign name={`Remove ${shown.name}`} onClick={() => remove.mutate(shown.id)}>
            <DeleteIcon />
          </Sign>
        </Box>
      )}
    </Box>
  );
}
