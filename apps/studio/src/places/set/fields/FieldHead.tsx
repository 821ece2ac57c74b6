import { Box, Tab, Tabs, Typography } from '@mui/material';
import AddIcon from '@mui/icons-material/Add';
import { useState } from 'react';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import type { SetView } from '@/data/set-view';
import type { FieldDoc, SetDoc } from '@/data/sets-store';
import { FieldClips } from './FieldClips';
import { FieldMenu } from './FieldMenu';
import type { OpenField } from './use-field';

/** The open field of a set, and how another is chosen or made. */
export interface FieldOfSet {
  readonly doc: SetDoc;
  readonly field: FieldDoc;
  readonly view: SetView;
  readonly onChoose: (id: string) => void;
  readonly onAdd: () => void;
}

interface Props extends FieldOfSet {
  readonly open: OpenField;
  readonly put: (change: Partial<FieldDoc>) => void;
}

/** The fields of the set, and what belongs to the open one. */
export function FieldHead({ doc, field, view, open, onChoose, onAdd, put }: Props) {
  const [clips, setClips] = useState<HTMLElement | null>(null);
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const found = [...open.soundings.values()];
  const half = found.length > 0 ? [...found].map(({ slideMm }) => slideMm).sort((a, b) => a - b)[found.length >> 1] : null;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, borderBottom: `1px solid ${chart('rule')}`, minWidth: 0 }}>
      <Tabs
        value={field.id}
        onChange={(_, id: string) => onChoose(id)}
        aria-label="Fields"
        textColor="inherit"
        variant="scrollable"
        scrollButtons={false}
        sx={{ minHeight: 36, minWidth: 0, '& .MuiTab-root': { minHeight: 36, textTransform: 'none', px: 1.2, minWidth: 0 } }}
      >
        {doc.fields.map(({ id, name }) => (
          <Tab key={id} value={id} label={name} disableRipple />
        ))}
      </Tabs>
      <Sign name="Make another field" onClick={onAdd}>
        <AddIcon />
      </Sign>
      <Box sx={{ flex: 1 }} />
      <Typography variant="body2" color="text.secondary" noWrap role="status">
        {open.isDone && half !== null
          ? `half of it under ${half.toFixed(1)} mm`
          : open.grid.length > 0
            ? `${open.soundings.size} of ${open.grid.length} soundings`
            : ''}
      </Typography>
      <Small name={`Clips of ${field.name}`} onClick={(event) => setClips(event.currentTarget)}>
        {field.clips.length} clips
      </Small>
      <Small name={`More about ${field.name}`} onClick={(event) => setMenu(event.currentTarget)}>
        more
      </Small>
      <FieldClips anchor={clips} onClose={() => setClips(null)} field={field} view={view} open={open} put={put} />
      <FieldMenu anchor={menu} onClose={() => setMenu(null)} doc={doc} field={field} put={put} />
    </Box>
  );
}
