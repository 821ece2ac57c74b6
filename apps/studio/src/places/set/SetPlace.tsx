'use client';
import type { SlotList } from '@lantern/motion';
import { Box, Button, LinearProgress, Menu, MenuItem, Tab, Tabs, Typography } from '@mui/material';
import AddIcon from '@mui/icons-material/Add';
import { useState } from 'react';
import { EmptyPlace } from '@/controls/EmptyPlace';
import { lazily } from '@/controls/lazily';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import { TypedText } from '@/controls/TypedText';
import { useProjectData, type TakeInfo } from '@/data/project';
import { useSets, type SetDoc } from '@/data/sets-store';
import { Trouble } from '@/controls/Trouble';
import { Commands } from '@/shell/Commands';
import { CoveragePage } from './slots/CoveragePage';
import { editSet } from '@/data/sets-store';
import { newSet } from './set-edits';
import { useMembers, useSetView, type SetView } from '@/data/set-view';
import { PAGES, useSetAddress, type SetPage } from './use-set';

const ContractPage = lazily(async () => (await import('./contract/ContractPage')).ContractPage, 'the contract');
const FieldsPage = lazily(async () => (await import('./fields/FieldsPage')).FieldsPage, 'the fields');
const GraphPage = lazily(async () => (await import('./graph/GraphPage')).GraphPage, 'the graph');
const ChoicesDialog = lazily(async () => (await import('../draft/ChoicesDialog')).ChoicesDialog);
const DraftDialog = lazily(async () => (await import('../draft/DraftDialog')).DraftDialog);

/** Set: what is there, what is missing, what the game asks, and the fields. */
export function SetPlace() {
  const { data, error, isPending, refetch } = useProjectData();
  const project = useSets((state) => state.project);
  const { doc, docs, page, open, isGone } = useSetAddress();
  const [draft, setDraft] = useState<'ask' | null>(null);
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (isPending || project === null) return <LinearProgress aria-label="Loading the set" />;
  if (!doc)
    return (
      <>
        <NoSet
          onNew={(list, character) => open(newSet(list, character).id, 'coverage')}
          onDraft={data.takes.length > 0 ? () => setDraft('ask') : null}
          characters={data.characters}
        />
        {draft === 'ask' && <DraftDialog onClose={() => setDraft(null)} />}
      </>
    );
  return <Open doc={doc} docs={docs} page={page} open={open} isGone={isGone} takes={data.takes} characters={data.characters} />;
}

interface OpenProps {
  readonly doc: SetDoc;
  readonly docs: readonly SetDoc[];
  readonly page: SetPage;
  readonly open: (id: string, page?: SetPage) => void;
  readonly isGone: boolean;
  readonly takes: readonly TakeInfo[];
  readonly characters: readonly { readonly id: string; readonly name: string }[];
}

function Open({ doc, docs, page, open, takes, characters }: OpenProps) {
  const [draft, setDraft] = useState<'ask' | 'choices' | null>(null);
  const members = useMembers(doc, takes);
  const view = useSetView(doc, members);
  const counts: Record<SetPage, number | null> = {
    coverage: doc.slots.length,
    contract: null,
    fields: doc.fields.length,
    graph: doc.graph?.states.length ?? null,
  };
  return (
    <Box sx={{ height: '100%', display: 'grid', gridTemplateRows: '46px minmax(0, 1fr)' }}>
      <Commands
        place="set"
        commands={[
          ...PAGES.map((own) => ({ id: `page-${own}`, label: `Set: ${own}`, run: () => open(doc.id, own) })),
          { id: 'draft', label: 'Draft a set from all takes', run: () => setDraft('ask') },
          ...(doc.draft ? [{ id: 'choices', label: 'How the set was drafted', run: () => setDraft('choices') }] : []),
        ]}
      />
      {draft === 'ask' && <DraftDialog onClose={() => setDraft(null)} />}
      {draft === 'choices' && <ChoicesDialog doc={doc} onClose={() => setDraft(null)} />}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, px: 2, borderBottom: `1px solid ${chart('rule')}`, minWidth: 0 }}>
        <Typography variant="h1">Set</Typography>
        <Tabs
          value={page}
          onChange={(_, next: SetPage) => open(doc.id, next)}
          aria-label="Pages of the set"
          sx={{
            minHeight: 46,
            '& .MuiTab-root': { minHeight: 46, textTransform: 'none', px: 1.4, fontSize: '1rem', minWidth: 0 },
            '& .Mui-selected': { fontWeight: 700 },
          }}
          textColor="inherit"
        >
          {PAGES.map((own) => (
            <Tab
              key={own}
              value={own}
              disableRipple
              label={
                <span>
                  {own[0].toUpperCase() + own.slice(1)}
                  {counts[own] !== null && (
                    <Typography component="span" variant="caption" color="text.secondary" sx={{ ml: 0.7, lineHeight: 1 }}>
                      {counts[own]}
                    </Typography>
                  )}
                </span>
              }
            />
          ))}
        </Tabs>
        <Box sx={{ flex: 1 }} />
        <Progress view={view} />
        {doc.draft && (
          <Button color="inherit" onClick={() => setDraft('choices')} sx={{ whiteSpace: 'nowrap' }}>
            how it was drafted
          </Button>
        )}
        <SetChooser doc={doc} docs={docs} open={open} onDraft={() => setDraft('ask')} characters={characters} />
      </Box>
      <Box sx={{ minHeight: 0, position: 'relative' }}>
        {page === 'coverage' && <CoveragePage doc={doc} view={view} />}
        {page === 'contract' && <ContractPage doc={doc} view={view} />}
        {page === 'fields' && <FieldsPage doc={doc} view={view} />}
        {page === 'graph' && <GraphPage doc={doc} view={view} />}
      </Box>
    </Box>
  );
}

/** How far measuring is, and what could not be measured. */
function Progress({ view: { members, done, isBusy, failed, error } }: { view: SetView }) {
  if (error)
    return (
      <Typography variant="body2" role="alert" noWrap>
        ▲ {error}
      </Typography>
    );
  if (done < members.length)
    return (
      <Box role="status" sx={{ width: 190 }}>
        <Typography variant="caption" color="text.secondary">
          measuring clip {done + 1} of {members.length}
        </Typography>
        <LinearProgress variant="determinate" value={(100 * done) / Math.max(1, members.length)} aria-label="Measuring the clips" />
      </Box>
    );
  if (failed.length > 0)
    return (
      <Typography variant="body2" noWrap title={failed.map(({ name, why }) => `${name}: ${why}`).join('\n')}>
        ▲ {failed.length} {failed.length === 1 ? 'clip' : 'clips'} could not be measured
      </Typography>
    );
  return isBusy ? (
    <Typography variant="caption" color="text.secondary" role="status">
      measuring
    </Typography>
  ) : null;
}

const LISTS: readonly (readonly [SlotList, string])[] = [
  ['modest', 'a modest one, of 12 slots'],
  ['full', 'a full one, of 31 slots'],
];

function SetChooser({
  doc,
  docs,
  open,
  onDraft,
  characters,
}: Pick<OpenProps, 'doc' | 'docs' | 'open' | 'characters'> & { readonly onDraft: () => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const shut = () => setAnchor(null);
  const who = characters.find(({ id }) => id === doc.character)?.name ?? 'clips as captured';
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minWidth: 0 }}>
      <Box sx={{ width: 130 }}>
        <TypedText
          key={doc.name}
          label={who}
          value={doc.name}
          read={(text) => text.trim() || null}
          onChange={(name) => editSet(doc, { name })}
        />
      </Box>
      <Sign name="Sets: choose one, or begin another" expanded={anchor !== null} onClick={(event) => setAnchor(event.currentTarget)}>
        <AddIcon />
      </Sign>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={shut}>
        {docs.map((own) => (
          <MenuItem
            key={own.id}
            dense
            selected={own.id === doc.id}
            onClick={() => {
              shut();
              open(own.id);
            }}
          >
            {own.name}
          </MenuItem>
        ))}
        <MenuItem
          dense
          onClick={() => {
            shut();
            onDraft();
          }}
        >
          Draft a set from all takes…
        </MenuItem>
        {[null, ...characters.map(({ id }) => id)].flatMap((character) =>
          LISTS.map(([list, words]) => (
            <MenuItem
              key={`${character} ${list}`}
              dense
              onClick={() => {
                shut();
                open(newSet(list, character).id, 'coverage');
              }}
            >
              New set {character === null ? 'as captured' : `for ${characters.find(({ id }) => id === character)?.name}`}: {words}
            </MenuItem>
          )),
        )}
        {docs.length > 1 && (
          <MenuItem
            dense
            onClick={() => {
              shut();
              useSets.getState().remove(doc.id);
            }}
          >
            Remove “{doc.name}”
          </MenuItem>
        )}
      </Menu>
    </Box>
  );
}

interface NoSetProps {
  readonly onNew: (list: SlotList, character: string | null) => void;
  /** Null where there is no take to draft from. */
  readonly onDraft: (() => void) | null;
  readonly characters: OpenProps['characters'];
}

function NoSet({ onNew, onDraft, characters }: NoSetProps) {
  const [character, setCharacter] = useState<string | null>(null);
  return (
    <EmptyPlace
      title="No set yet"
      says="A set says what a game expects of a character, and holds his clips against it. Have one drafted from the takes, or begin with a ready list."
    >
      {onDraft && (
        <Button variant="contained" size="large" onClick={onDraft} sx={{ mb: 2.5 }}>
          Draft the set from the takes
        </Button>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, justifyContent: 'center', mb: 2 }} role="radiogroup" aria-label="Whose clips">
        {[null, ...characters.map(({ id }) => id)].map((id) => (
          <Button
            key={id ?? ''}
            role="radio"
            aria-checked={character === id}
            color="inherit"
            variant={character === id ? 'outlined' : 'text'}
            onClick={() => setCharacter(id)}
          >
            {id === null ? 'clips as captured' : characters.find((own) => own.id === id)?.name}
          </Button>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1.5, justifyContent: 'center' }}>
        <Button
          variant={onDraft ? 'outlined' : 'contained'}
          color={onDraft ? 'inherit' : 'primary'}
          size="large"
          onClick={() => onNew('modest', character)}
        >
          Begin a modest set, 12 slots
        </Button>
        <Button variant="outlined" color="inherit" size="large" onClick={() => onNew('full', character)}>
          Begin a full set, 31 slots
        </Button>
      </Box>
    </EmptyPlace>
  );
}
