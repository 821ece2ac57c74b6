'use client';
import { Sign } from '@/controls/Sign';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, LinearProgress, Tab, Tabs, Typography } from '@mui/material';
import type { TakeOverrides } from '@lantern/motion';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits, useTakeHistory } from '@/data/take-edits';
import { takeKey } from '@/data/use-open-take';
import { chart } from '@/controls/theme';
import { MadeFromLine } from './MadeFromLine';
import { NotesCard } from './NotesCard';
import { PassportCard } from './PassportCard';
import { PropsCard } from './PropsCard';
import { tagsOf } from './tags';

type TabName = 'passport' | 'notes' | 'props';

/** The open take: its passport, its notes, what stands on its stage. */
export function TakeCard({
  take,
  takes,
  onRemove,
  onCompare,
  onRedeliver,
}: {
  take: TakeInfo;
  takes: readonly TakeInfo[];
  onRemove: (takes: readonly TakeInfo[]) => void;
  onCompare: () => void;
  onRedeliver: () => void;
}) {
  const [tab, setTab] = useState<TabName>('passport');
  const project = useProjectInfo();
  const router = useRouter();
  const { edit } = useTakeEdits();
  const isBusy = useTakeHistory((state) => state.busy.includes(take.id));
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', px: 1.5, pt: 0.8 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="h2" noWrap sx={{ flex: 1 }}>
          {take.name}
        </Typography>
        <Button sx={{ color: 'text.secondary', minWidth: 0 }} onClick={onRedeliver}>
          redeliver…
        </Button>
        <Sign name="Remove this take" keys="Del" onClick={() => onRemove([take])}>
          <DeleteIcon />
        </Sign>
      </Box>
      {take.made && <MadeFromLine made={take.made} />}
      <Tabs
        value={tab}
        onChange={(_, next: TabName) => setTab(next)}
        aria-label="About the take"
        textColor="inherit"
        sx={{
          minHeight: 30,
          borderBottom: `1px solid ${chart('rule')}`,
          '& .MuiTab-root': { minHeight: 30, minWidth: 0, px: 0.9, py: 0.4, opacity: 1, color: 'text.secondary' },
          '& .MuiTab-root.Mui-selected': { color: 'text.primary', fontWeight: 700 },
        }}
      >
        {(['passport', 'notes', 'props'] as const).map((name) => (
          <Tab key={name} value={name} label={TAB_WORDS[name]} id={`tab-${name}`} aria-controls="take-card" disableRipple />
        ))}
      </Tabs>
      {isBusy && <LinearProgress aria-label="Measuring the take again" />}
      <Box id="take-card" role="tabpanel" aria-labelledby={`tab-${tab}`} sx={{ flex: 1, minHeight: 0, overflow: 'auto', pb: 1 }}>
        {tab === 'passport' && <PassportTab take={take} takes={takes} onCompare={onCompare} />}
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

/** The passport of a take, and what of it should hold for other takes of its suit. */
function PassportTab({ take, takes, onCompare }: { take: TakeInfo; takes: readonly TakeInfo[]; onCompare: () => void }) {
  const { edit } = useTakeEdits();
  const override = (label: string, which: readonly TakeInfo[], overrides: TakeOverrides) =>
    void edit(
      label,
      changesOf(which, () => ({ overrides })),
    );
  const isOverruled = Object.keys(take.overrides).length > 0;
  const readingOf = (t: TakeInfo) => takeKey(t).slice(t.id.length);
  const others = takes.filter((t) => t.id !== take.id && t.signature === take.signature && readingOf(t) !== readingOf(take));
  return (
    <>
      <PassportCard take={take} onOverride={(overrides) => override('passport', [take], overrides)} />
      {isOverruled && (
        <Button variant="outlined" color="inherit" sx={{ py: 0, mt: 1 }} onClick={onCompare}>
          compare with the take as found
        </Button>
      )}
      {isOverruled && others.length > 0 && (
        <Typography variant="body2" sx={{ mt: 1 }}>
          {others.length} other {others.length === 1 ? 'take' : 'takes'} of this suit {others.length === 1 ? 'is' : 'are'} read otherwise.{' '}
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
  );
}

const TAB_WORDS: Record<TabName, string> = { passport: 'passport', notes: 'name, tags, notes', props: 'props' };
