'use client';
import { Box, Button, ButtonBase, LinearProgress, Typography } from '@mui/material';
import type { TakeOverrides } from '@lantern/motion';
import { useParams, useRouter, useSearchParams } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { useProjectData, useProjectInfo, type TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits, useTakeHistory } from '@/data/take-edits';
import { Split } from '@/shell/Split';
import { chart } from '@/shell/theme';
import { useBrowse } from './ImportDesk';
import { CaptureDesk } from './CaptureDesk';
import { NotesCard, TagsField } from './NotesCard';
import { PassportCard } from './PassportCard';
import { PropsCard } from './PropsCard';
import { TakeTable } from './TakeTable';
import { RAW, TakeView } from './TakeView';

type Tab = 'passport' | 'notes' | 'props';

/** Takes: bring them in, settle what they are, look at them. */
export function Takes() {
  const inUrl = useParams<{ take?: string[] }>().take?.[0] ?? null;
  // What was asked for is shown before the address has caught up.
  const [asked, setAsked] = useState<string | null>(null);
  useEffect(() => setAsked(null), [inUrl]);
  const open = asked ?? inUrl;
  const { data, error, isPending, refetch } = useProjectData();
  const project = useProjectInfo();
  const router = useRouter();
  const browse = useBrowse();
  const [other, setOther] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { edit } = useTakeEdits();
  const remove = useRemoval();
  const capture = useSearchParams().has('capture');
  if (isPending) return <LinearProgress aria-label="Loading the takes" />;
  if (error) return <Trouble message={error.message} onRetry={() => void refetch()} />;
  if (capture) return <CaptureDesk />;
  const toCapture = () => router.push(`/${project.id}/takes?capture`);
  if (data.takes.length === 0) return <Empty onBrowse={browse} onCapture={toCapture} />;
  const take = data.takes.find((t) => t.id === open) ?? null;
  const isGone = open !== null && !take;
  const shown = take ?? (isGone ? null : data.takes[0]);
  const picked = data.takes.filter((t) => chosen.has(t.id));
  const star = (takes: readonly TakeInfo[]) => {
    const isOn = !takes.every((t) => t.star);
    void edit(
      isOn ? 'star' : 'star taken',
      changesOf(takes, () => ({ star: isOn })),
    );
  };
  return (
    <Split
      id="takes"
      parts={[
        {
          id: 'library',
          size: '36%',
          least: '25%',
          content: (
            <Split
              id="takes-library"
              vertical
              parts={[
                {
                  id: 'takes-list',
                  size: '46%',
                  least: '20%',
                  content: (
                    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
                      <Box sx={{ display: 'flex', alignItems: 'baseline', px: 1.5, pt: 1, pb: 0.6, gap: 1 }}>
                        <Typography variant="h2" component="h1" sx={{ flex: 1 }}>
                          Takes
                        </Typography>
                        <Typography variant="caption" color="text.secondary" noWrap>
                          drop files anywhere, or
                        </Typography>
                        <Button variant="outlined" color="inherit" onClick={browse}>
                          bring in…
                        </Button>
                        <Button variant="outlined" color="inherit" onClick={toCapture}>
                          capture…
                        </Button>
                      </Box>
                      {picked.length > 1 && (
                        <Several
                          takes={picked}
                          all={data.takes}
                          onStar={star}
                          onRemove={remove}
                          onDone={() => setChosen(new Set())}
                          onCompare={
                            picked.length === 2
                              ? () => {
                                  router.push(`/${project.id}/takes/${picked[0].id}`);
                                  setOther(picked[1].id);
                                }
                              : undefined
                          }
                        />
                      )}
                      <Box sx={{ flex: 1, minHeight: 0 }}>
                        <TakeTable
                          takes={data.takes}
                          open={shown?.id ?? null}
                          chosen={chosen}
                          onOpen={(id) => {
                            setAsked(id);
                            router.push(`/${project.id}/takes/${id}`);
                          }}
                          onChoose={setChosen}
                          onStar={star}
                          onRemove={remove}
                        />
                      </Box>
                    </Box>
                  ),
                },
                {
                  id: 'take-card',
                  size: '54%',
                  least: '20%',
                  content: shown && (
                    <TakeCard key={shown.id} take={shown} takes={data.takes} onRemove={remove} onCompare={() => setOther(RAW)} />
                  ),
                },
              ]}
            />
          ),
        },
        {
          id: 'take-stage',
          size: '64%',
          least: '35%',
          content: (
            <Box sx={{ display: 'grid', gridTemplateRows: 'minmax(0, 1fr) auto', minHeight: 0, height: '100%' }}>
              <TakeView take={shown} isGone={isGone} other={other} onCompare={setOther} />
            </Box>
          ),
        },
      ]}
    />
  );
}

/** Removes takes, with undo; those that clips are cut from stay, and it is said. */
function useRemoval() {
  const { edit, undo } = useTakeEdits();
  const project = useProjectInfo();
  const router = useRouter();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  return (takes: readonly TakeInfo[]) =>
    void edit(
      takes.length === 1 ? `“${takes[0].name}” removed` : `${takes.length} takes removed`,
      takes.map(({ id }) => ({ id, before: { removed: false }, after: { removed: true } })),
    ).then((isDone) => {
      if (!isDone) return;
      router.push(`/${project.id}/takes`);
      enqueueSnackbar(takes.length === 1 ? `“${takes[0].name}” is removed.` : `${takes.length} takes are removed.`, {
        action: (key) => (
          <Button
            color="inherit"
            onClick={() => {
              void undo();
              closeSnackbar(key);
            }}
          >
            bring back
          </Button>
        ),
      });
    });
}

/** What can be done to several takes at once. */
function Several({
  takes,
  all,
  onStar,
  onRemove,
  onDone,
  onCompare,
}: {
  takes: readonly TakeInfo[];
  all: readonly TakeInfo[];
  onStar: (takes: readonly TakeInfo[]) => void;
  onRemove: (takes: readonly TakeInfo[]) => void;
  onDone: () => void;
  onCompare?: () => void;
}) {
  const { edit } = useTakeEdits();
  const [isTagging, setTagging] = useState(false);
  const shared = takes[0].tags.filter((tag) => takes.every((take) => take.tags.includes(tag)));
  const retag = (tags: readonly string[]) =>
    void edit(
      'tags',
      changesOf(takes, (take) => ({ tags: [...new Set([...take.tags.filter((tag) => !shared.includes(tag)), ...tags])] })),
    );
  return (
    <Box role="toolbar" aria-label="Chosen takes" sx={{ px: 1.5, pb: 0.8, display: 'grid', gap: 0.8 }}>
      <Box sx={{ display: 'flex', gap: 0.6, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="body2" sx={{ fontWeight: 700 }}>
          {takes.length} chosen
        </Typography>
        <Button sx={{ py: 0, minWidth: 0 }} color="inherit" variant="outlined" onClick={() => onStar(takes)}>
          star
        </Button>
        <Button
          sx={{ py: 0, minWidth: 0 }}
          color="inherit"
          variant="outlined"
          aria-expanded={isTagging}
          onClick={() => setTagging(!isTagging)}
        >
          tag…
        </Button>
        <Button sx={{ py: 0, minWidth: 0 }} color="inherit" variant="outlined" onClick={() => onRemove(takes)}>
          remove
        </Button>
        {onCompare && (
          <Button sx={{ py: 0, minWidth: 0 }} color="inherit" variant="outlined" onClick={onCompare}>
            compare
          </Button>
        )}
        <Button sx={{ py: 0, minWidth: 0 }} color="inherit" onClick={onDone}>
          none
        </Button>
      </Box>
      {isTagging && <TagsField label={`Tags of all ${takes.length}`} tags={shared} allTags={tagsOf(all)} onChange={retag} />}
    </Box>
  );
}

const tagsOf = (takes: readonly TakeInfo[]): string[] => [...new Set(takes.flatMap((take) => take.tags))].sort();

/** The open take: its passport, its notes, what stands on its stage. */
function TakeCard({
  take,
  takes,
  onRemove,
  onCompare,
}: {
  take: TakeInfo;
  takes: readonly TakeInfo[];
  onRemove: (takes: readonly TakeInfo[]) => void;
  onCompare: () => void;
}) {
  const [tab, setTab] = useState<Tab>('passport');
  const project = useProjectInfo();
  const router = useRouter();
  const { edit } = useTakeEdits();
  const isBusy = useTakeHistory((state) => state.busy.includes(take.id));
  const override = (label: string, which: readonly TakeInfo[], overrides: TakeOverrides) =>
    void edit(
      label,
      changesOf(which, () => ({ overrides })),
    );
  const others = takes.filter((t) => t.id !== take.id && t.signature === take.signature && !same(t.overrides, take.overrides));
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', px: 1.5, pt: 0.8 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="h2" noWrap sx={{ flex: 1 }}>
          {take.name}
        </Typography>
        <Button sx={{ color: 'text.secondary', minWidth: 0 }} onClick={() => onRemove([take])}>
          remove
        </Button>
      </Box>
      <Box role="tablist" aria-label="About the take" sx={{ display: 'flex', gap: 0.5, borderBottom: `1px solid ${chart('rule')}` }}>
        {(['passport', 'notes', 'props'] as const).map((name) => (
          <ButtonBase
            key={name}
            disableRipple
            role="tab"
            aria-selected={tab === name}
            onClick={() => setTab(name)}
            sx={{
              fontFamily: 'inherit',
              fontSize: 14.5,
              px: 0.8,
              py: 0.4,
              fontWeight: tab === name ? 700 : 400,
              color: tab === name ? 'text.primary' : 'text.secondary',
              borderBottom: `2px solid ${tab === name ? chart('lamp') : 'transparent'}`,
            }}
          >
            {TAB_WORDS[name]}
          </ButtonBase>
        ))}
      </Box>
      {isBusy && <LinearProgress aria-label="Measuring the take again" />}
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto', pb: 1 }}>
        {tab === 'passport' && (
          <>
            <PassportCard take={take} onOverride={(overrides) => override('passport', [take], overrides)} />
            {Object.keys(take.overrides).length > 0 && (
              <Button variant="outlined" color="inherit" sx={{ py: 0, mt: 1 }} onClick={onCompare}>
                compare with the take as found
              </Button>
            )}
            {others.length > 0 && Object.keys(take.overrides).length > 0 && (
              <Typography variant="body2" sx={{ mt: 1 }}>
                {others.length} other {others.length === 1 ? 'take' : 'takes'} of this suit {others.length === 1 ? 'is' : 'are'} read
                otherwise.{' '}
                <Button
                  variant="outlined"
                  color="inherit"
                  sx={{ py: 0 }}
                  onClick={() => override('passports of the suit', others, take.overrides)}
                >
                  read {others.length === 1 ? 'it' : 'them'} like this one
                </Button>
              </Typography>
            )}
          </>
        )}
        {tab === 'notes' && (
          <NotesCard
            take={take}
            allTags={tagsOf(takes)}
            onChange={(patch) =>
              void edit(
                Object.keys(patch).join(', '),
                changesOf([take], () => patch),
              )
            }
          />
        )}
        {tab === 'props' && (
          <PropsCard
            take={take}
            onChange={(props) =>
              void edit(
                'props',
                changesOf([take], () => ({ props: [...props] })),
              )
            }
          />
        )}
      </Box>
      <Button
        fullWidth
        variant="contained"
        size="medium"
        sx={{ my: 1, fontWeight: 700, flexShrink: 0 }}
        onClick={() => router.push(`/${project.id}/bench?take=${take.id}`)}
      >
        Cut a clip on the Bench
      </Button>
    </Box>
  );
}

const TAB_WORDS: Record<Tab, string> = { passport: 'passport', notes: 'name, tags, notes', props: 'props' };

const same = (a: TakeOverrides, b: TakeOverrides): boolean => {
  const keys = new Set([...Object.keys(a), ...Object.keys(b)]) as Set<keyof TakeOverrides>;
  return [...keys].every((key) => a[key] === b[key]);
};

function Empty({ onBrowse, onCapture }: { onBrowse: () => void; onCapture: () => void }) {
  return (
    <Box sx={{ height: '100%', display: 'grid', placeItems: 'center', textAlign: 'center' }}>
      <Box>
        <Typography variant="h1" sx={{ mb: 1 }}>
          No takes yet
        </Typography>
        <Typography color="text.secondary" sx={{ mb: 2 }}>
          Drop BVH, glTF, GLB, or ASF and AMC files anywhere in this window, or record in the simulated suit.
        </Typography>
        <Button variant="contained" size="large" onClick={onBrowse}>
          Choose files…
        </Button>{' '}
        <Button variant="outlined" color="inherit" size="large" onClick={onCapture}>
          Capture…
        </Button>
      </Box>
    </Box>
  );
}

export function Trouble({ message, onRetry }: { message: string; onRetry: () => void }) {
  return (
    <Box role="alert" sx={{ height: '100%', display: 'grid', placeItems: 'center', textAlign: 'center' }}>
      <Box>
        <Typography sx={{ mb: 1.5 }}>{message}</Typography>
        <Button variant="outlined" color="inherit" onClick={onRetry}>
          Try again
        </Button>
      </Box>
    </Box>
  );
}
