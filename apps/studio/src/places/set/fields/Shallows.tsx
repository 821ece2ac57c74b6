import type { Sounding } from '@lantern/motion';
import { Box, Button, Typography } from '@mui/material';
import { useSnackbar } from 'notistack';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { FieldDoc, SetDoc } from '@/data/sets-store';
import { addShots } from '@/data/shot-edits';
import { clipFor, DEPTH_WORDS, shallowsOf, worstOf } from './depths';
import { words } from './sea/words';
import type { OpenField } from './use-field';

/** Where the field is out of bounds, and which clip would help. */
export function Shallows({ doc, field, open: { grid, soundings, isDone } }: { doc: SetDoc; field: FieldDoc; open: OpenField }) {
  const { enqueueSnackbar } = useSnackbar();
  const shallows = shallowsOf(grid, soundings);
  const lines = shallows.map(({ sounding }) => ({ text: shotFor(sounding, field), sounding }));
  const capture = (texts: readonly string[]) => {
    const added = addShots(doc, texts);
    enqueueSnackbar(
      added === 0 ? 'It is on the shot list already.' : `${added} ${added === 1 ? 'line is' : 'lines are'} on the shot list.`,
    );
  };
  return (
    <Box
      component="section"
      aria-label="Shallows"
      sx={{ borderTop: `1px solid ${chart('rule')}`, px: 2, py: 0.6, maxHeight: 150, overflow: 'auto' }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {shallows.length === 0
            ? isDone
              ? 'No shallows: all of it is in bounds'
              : 'Sounding'
            : `${shallows.length} ${shallows.length === 1 ? 'shallow' : 'shallows'}, out of bounds`}
        </Typography>
        {shallows.length > 0 && (
          <Button variant="contained" onClick={() => capture(lines.map(({ text }) => text))} sx={{ fontWeight: 700 }}>
            Put {shallows.length === 1 ? 'it' : shallows.length === 2 ? 'both' : `all ${shallows.length}`} on the shot list
          </Button>
        )}
      </Box>
      {lines.map(({ text, sounding }) => {
        const worst = worstOf(sounding);
        return (
          <Box key={text} sx={{ display: 'flex', alignItems: 'center', gap: 1.5, borderTop: `1px solid ${chart('rule')}` }}>
            <Typography variant="body2" sx={{ width: 170 }}>
              ▲ {words(field, sounding.at)}
            </Typography>
            <Typography variant="body2" sx={{ width: 110, fontWeight: 700 }}>
              {worst} {DEPTH_WORDS[worst].of(sounding).toFixed(1)} {DEPTH_WORDS[worst].unit}
            </Typography>
            <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0 }}>
              put {clipFor(sounding.at, field.inputs)} here
            </Typography>
            <Small name={`Capture ${clipFor(sounding.at, field.inputs)}`} onClick={() => capture([text])}>
              to the shot list
            </Small>
          </Box>
        );
      })}
    </Box>
  );
}

const shotFor = ({ at }: Sounding, { inputs, name }: FieldDoc): string => `For ${name}: ${clipFor(at, inputs)}, four good strides.`;
