'use client';
import { shotCsv, type Shot } from '@lantern/motion';
import { Box, Button, Checkbox, InputBase, Link as Words, Typography } from '@mui/material';
import CloseIcon from '@mui/icons-material/Close';
import Link from 'next/link';
import { useState, type KeyboardEvent } from 'react';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import type { SetDoc } from '@/data/sets-store';
import { keepFile } from '@/data/keep-file';
import { changeShot, addShot, removeShot } from '@/data/shot-edits';
import { Sketch } from '@/controls/Sketch';

interface Props {
  readonly doc: SetDoc;
  readonly shots: readonly Shot[];
  readonly takes: readonly TakeInfo[];
  readonly onSheet: () => void;
}

const GRID = '34px 30px minmax(200px, 1fr) 160px 130px 250px 26px';

/** What the set still needs of a capture day: a line a shot, in words that a performer follows. */
export function ShotList({ doc, shots, takes, onSheet }: Props) {
  const project = useProjectInfo();
  const [wish, setWish] = useState('');
  const come = shots.filter(({ done }) => done).length;
  const add = () => {
    if (wish.trim() === '') return;
    addShot(doc, wish.trim());
    setWish('');
  };
  return (
    <Box
      component="section"
      aria-label="Shot list"
      sx={{ height: '100%', display: 'flex', flexDirection: 'column', bgcolor: chart('card'), px: 2, pt: 0.7 }}
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: GRID, alignItems: 'baseline', borderBottom: `1px solid ${chart('rule')}`, pb: 0.3 }}>
        <Box sx={{ gridColumn: '1 / 4', display: 'flex', gap: 1.6, alignItems: 'baseline', minWidth: 0 }}>
          <Typography variant="h2">Shot list</Typography>
          <Typography variant="body2" color="text.secondary" noWrap>
            {shots.length === 0
              ? 'nothing to capture'
              : `${shots.length} ${shots.length === 1 ? 'shot' : 'shots'}, ${come === 0 ? 'none has' : come === 1 ? 'one has' : `${come} have`} come in`}
          </Typography>
        </Box>
        {['on the floor', 'gives'].map((head) => (
          <Typography key={head} variant="body2" color="text.secondary">
            {head}
          </Typography>
        ))}
        <Box sx={{ gridColumn: '6 / 8', display: 'flex', justifyContent: 'flex-end', gap: 0.5 }}>
          <Small onClick={onSheet}>a sheet for the floor</Small>
          <Small name="Save the shot list as CSV" onClick={() => keepFile(`${doc.name}-shots.csv`, shotCsv(shots), 'text/csv')}>
            CSV
          </Small>
          <Words component={Link} href={`/${project.id}/takes?capture=${doc.id}`} color="inherit" underline="hover">
            to the capture desk
          </Words>
        </Box>
      </Box>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none', overflow: 'auto', flex: 1, minHeight: 0 }}>
        {shots.map((shot) => (
          <Line key={shot.id} doc={doc} shot={shot} takeName={takes.find(({ id }) => id === shot.by?.take)?.name ?? null} />
        ))}
        <Box component="li" sx={{ display: 'grid', gridTemplateColumns: GRID, alignItems: 'center', minHeight: 34 }}>
          <Box sx={{ gridColumn: '3 / 5' }}>
            <InputBase
              fullWidth
              placeholder="another line: what the performer does"
              value={wish}
              onChange={(event) => setWish(event.target.value)}
              onKeyDown={(event: KeyboardEvent) => event.key === 'Enter' && add()}
              inputProps={{ 'aria-label': 'Another shot, in words' }}
              sx={{ fontSize: '0.95rem' }}
            />
          </Box>
          <Button color="inherit" disabled={wish.trim() === ''} onClick={add}>
            add the line
          </Button>
        </Box>
      </Box>
    </Box>
  );
}

function Line({ doc, shot, takeName }: { doc: SetDoc; shot: Shot; takeName: string | null }) {
  const project = useProjectInfo();
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.trim() !== '' && text.trim() !== shot.text) changeShot(doc, shot, { text: text.trim() });
    setText(null);
  };
  return (
    <Box
      component="li"
      sx={{ display: 'grid', gridTemplateColumns: GRID, alignItems: 'center', borderBottom: `1px solid ${chart('rule')}`, minHeight: 38 }}
    >
      <Checkbox
        size="small"
        color="default"
        checked={shot.done}
        onChange={(_, done) => changeShot(doc, shot, { done })}
        slotProps={{ input: { 'aria-label': `Shot ${shot.number} has come in` } }}
        sx={{ p: 0.4, justifySelf: 'start' }}
      />
      <Box
        component="span"
        aria-hidden
        sx={{
          width: 20,
          height: 20,
          borderRadius: '50%',
          border: `1.3px solid ${chart('ink')}`,
          display: 'grid',
          placeItems: 'center',
          fontSize: 12,
          fontWeight: 700,
          bgcolor: shot.done ? chart('lampSoft') : 'transparent',
        }}
      >
        {shot.number}
      </Box>
      <InputBase
        fullWidth
        value={text ?? shot.text}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event: KeyboardEvent<HTMLInputElement>) => {
          if (event.key === 'Enter' && event.target instanceof HTMLElement) event.target.blur();
          if (event.key === 'Escape') setText(null);
        }}
        inputProps={{ 'aria-label': `Shot ${shot.number}`, title: shot.text }}
        sx={{ fontSize: '0.97rem', '& input': { textOverflow: 'ellipsis', p: 0 } }}
      />
      <Box>{shot.sketch && <Sketch sketch={shot.sketch} />}</Box>
      <Typography variant="body2" noWrap sx={{ fontWeight: 500 }}>
        {shot.gives}
      </Typography>
      <Typography variant="body2" noWrap color="text.secondary">
        {shot.by ? (
          <Words component={Link} href={`/${project.id}/bench?take=${shot.by.take}&from=${shot.by.from}&to=${shot.by.to}`} color="inherit">
            {takeName ?? 'a take'}, cut it on the Bench
          </Words>
        ) : shot.done ? (
          'ticked by hand'
        ) : (
          'no take yet'
        )}
      </Typography>
      {shot.slot === null || shot.isEdited ? (
        <Sign
          name={shot.slot === null ? `Remove shot ${shot.number}` : `Shot ${shot.number} in its own words again`}
          onClick={() => removeShot(doc, shot)}
        >
          <CloseIcon />
        </Sign>
      ) : (
        <span />
      )}
    </Box>
  );
}
