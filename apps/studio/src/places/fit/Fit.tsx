'use client';
import { Box, Button, LinearProgress, MenuItem, Select, Tab, Tabs, Typography } from '@mui/material';
import { useParams, useRouter, useSearchParams } from 'next/navigation';
import { useMemo, useState } from 'react';
import { useProjectData, useProjectInfo, type ProjectData } from '@/data/project';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { Trouble } from '@/controls/Trouble';
import { Commands } from '@/shell/Commands';
import { CharacterBar } from './CharacterBar';
import { Pair } from './Pair';
import { useBringCharacter } from './use-bring-character';
import type { Panel } from './use-pair';

const PANELS: Readonly<Record<Panel, string>> = { parts: 'Parts', reference: 'Reference', limbs: 'Limbs', day: 'Whole day' };

/** Fit: takes onto our own characters. */
export function Fit() {
  const { data, error, isPending, refetch } = useProjectData();
  const project = useProjectInfo();
  const router = useRouter();
  if (isPending) return <LinearProgress aria-label="Loading the characters" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (data.takes.length === 0) {
    return (
      <EmptyPlace title="Nothing to fit yet" says="Bring in a take first; here it becomes the motion of your own characters.">
        <Button variant="contained" size="large" onClick={() => router.push(`/${project.id}/takes`)}>
          Go to Takes
        </Button>
      </EmptyPlace>
    );
  }
  return <Desk data={data} />;
}

function Desk({ data }: { data: ProjectData }) {
  const project = useProjectInfo();
  const router = useRouter();
  const inUrl = useParams<{ take?: string[] }>().take?.[0];
  const search = useSearchParams();
  const suited = data.takes.find(({ id }) => id === inUrl) ?? data.takes[0];
  // Here the mapping is what is changed: the take is shown as it was found.
  const take = useMemo(() => ({ ...suited, mapping: undefined }), [suited]);
  const character =
    data.characters.find(({ id }) => id === search.get('onto')) ??
    data.characters.find(({ id }) => id === data.project.fitTo) ??
    data.characters.at(-1) ??
    null;
  const [panel, setPanel] = useState<Panel>('parts');
  const [at, setAt] = useState<number | null>(null);
  const open = (to: string, onto: string | undefined, frame?: number) => {
    setAt(frame ?? null);
    router.push(`/${project.id}/fit/${to}${onto ? `?onto=${encodeURIComponent(onto)}` : ''}`);
  };
  const { getRootProps, getInputProps, browse, isReading } = useBringCharacter((id) => open(take.id, id));
  const commands = [
    ...(Object.keys(PANELS) as Panel[]).map((name) => ({ id: `fit-${name}`, label: `Fit: ${PANELS[name]}`, run: () => setPanel(name) })),
    ...data.characters.map(({ id, name }) => ({ id: `onto-${id}`, label: `Fit onto ${name}`, run: () => open(take.id, id) })),
    { id: 'bring-character', label: 'Bring in a character of your own', run: browse },
  ];
  const bar = (
    <Box sx={{ px: 1.5, pt: 1, display: 'grid', gap: 0.8 }}>
      <Commands place="fit" commands={commands} />
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="h2" component="h1">
          Fit
        </Typography>
        <Select
          variant="standard"
          disableUnderline
          value={take.id}
          onChange={(event) => open(event.target.value, character?.id)}
          inputProps={{ 'aria-label': 'Take' }}
          sx={{ flex: 1, '& .MuiSelect-select': { py: 0.1 } }}
        >
          {data.takes.map(({ id, name }) => (
            <MenuItem key={id} value={id} dense>
              {name}
            </MenuItem>
          ))}
        </Select>
      </Box>
      <CharacterBar data={data} open={character?.id ?? null} isReading={isReading} onOpen={(id) => open(take.id, id)} onBrowse={browse} />
    </Box>
  );
  return (
    <Box {...getRootProps()} sx={{ height: '100%' }}>
      <input {...getInputProps({ 'aria-label': 'Character file' })} accept=".glb" />
      <Pair
        key={`${take.id} ${character?.id} ${at}`}
        at={at}
        data={data}
        take={take}
        character={character?.id ?? null}
        panel={panel}
        head={[bar, <PanelTabs key="tabs" panel={panel} onPanel={setPanel} />]}
        onOpen={open}
      />
    </Box>
  );
}

function PanelTabs({ panel, onPanel }: { panel: Panel; onPanel: (panel: Panel) => void }) {
  return (
    <Tabs
      value={panel}
      onChange={(_, next: Panel) => onPanel(next)}
      aria-label="Of the fit"
      variant="fullWidth"
      sx={{
        minHeight: 34,
        borderBottom: 1,
        borderColor: 'divider',
        '& .MuiTab-root': { minHeight: 34, py: 0.5, textTransform: 'none', fontSize: 15, minWidth: 0 },
      }}
      textColor="inherit"
      indicatorColor="primary"
    >
      {(Object.keys(PANELS) as Panel[]).map((name) => (
        <Tab key={name} value={name} label={PANELS[name]} disableRipple />
      ))}
    </Tabs>
  );
}
