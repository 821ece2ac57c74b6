'use client';
import type { SlotReport } from '@lantern/motion';
import { slotName } from '@lantern/motion';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { useCallback, useMemo, useState } from 'react';
import { Small } from '@/controls/Small';
import { Split } from '@/controls/Split';
import { chart } from '@/controls/theme';
import { useClips } from '@/data/clips-store';
import { useProjectData, useProjectInfo } from '@/data/project';
import type { SetDoc } from '@/data/sets-store';
import { Commands } from '@/shell/Commands';
import { mirrorFor, setStepOf } from '../set-edits';
import type { SetView } from '@/data/set-view';
import { CoverageTable } from './CoverageTable';
import { FillFromTakes } from './FillFromTakes';
import { Glimpse } from './Glimpse';
import { HomeLine } from './HomeLine';
import { ManyAtOnce } from './many/ManyAtOnce';
import { SlotMark, STATE_WORDS } from './marks';
import { Rope } from './Rope';
import { Rose } from './Rose';
import { ShotList } from './ShotList';
import { ShotSheet } from './ShotSheet';
import { SlotCard } from './SlotCard';
import { SlotEditor } from './SlotEditor';
import { worriesOf, type Worry } from './worries';

type Open = 'fill' | 'many' | 'slots' | 'sheet' | null;

/** What is there, what mirroring would fill, and what is still to capture. */
export function CoveragePage({ doc, view }: { doc: SetDoc; view: SetView }) {
  const project = useProjectInfo();
  const router = useRouter();
  const { data } = useProjectData();
  const { enqueueSnackbar } = useSnackbar();
  const clips = useClips((state) => state.docs);
  const [chosen, setChosen] = useState<string | null>(null);
  const [card, setCard] = useState<{ slot: string; anchor: Element } | null>(null);
  const [open, setOpen] = useState<Open>(null);
  const { measured } = view;
  const reports = measured?.coverage.slots;
  const nameOf = useCallback(
    (clip: string | null, report?: SlotReport) => {
      const own = clips.find(({ id }) => id === clip)?.name ?? '';
      return report && (report.state === 'missing' || report.state === 'mirror') ? slotName(report.slot) : own;
    },
    [clips],
  );
  const shotOf = useCallback((slot: string) => measured?.shots.find((shot) => shot.slot === slot && !shot.done)?.number, [measured]);
  const worries = useMemo(() => (measured ? worriesOf(doc, measured, clips) : []), [doc, measured, clips]);
  if (!measured || !reports)
    return (
      <Box sx={{ p: 3 }}>
        <LinearProgress aria-label="Measuring the set" />
      </Box>
    );
  const { counts } = measured.coverage;
  const mirror = () => {
    const made = mirrorFor(reports);
    enqueueSnackbar(`${made} ${made === 1 ? 'clip was' : 'clips were'} mirrored; undo takes ${made === 1 ? 'it' : 'them'} back.`);
  };
  const toBench = ({ clip, state }: SlotReport) => {
    if (clip && state !== 'missing') router.push(`/${project.id}/bench/${clip}`);
  };
  const shown = reports.find(({ id }) => id === chosen);
  const open_ = reports.find(({ id }) => id === card?.slot);
  const rose = (
    <Box sx={{ position: 'relative', height: '100%', overflow: 'hidden' }}>
      <Box sx={{ position: 'absolute', left: 16, top: 8, pointerEvents: 'none' }}>
        <Typography variant="h2">The rose</Typography>
        <Typography variant="caption" color="text.secondary" sx={{ fontStyle: 'italic', display: 'block', lineHeight: 1.2 }}>
          way of travel round,
          <br />
          speed outwards
        </Typography>
      </Box>
      <Rose
        reports={reports}
        contract={doc.contract}
        lines={measured.contract}
        nameOf={nameOf}
        shotOf={shotOf}
        speedBound={doc.bounds.speed}
        chosen={chosen}
        onChoose={setChosen}
        onOpen={toBench}
        onSpeed={({ clip }, mps) => clip && setStepOf(new Set([clip]), { kind: 'speed', mps })}
      />
      <Box
        component="ul"
        aria-label="Marks"
        sx={{ position: 'absolute', left: 14, bottom: 6, m: 0, p: 0, listStyle: 'none', fontSize: 13, pointerEvents: 'none' }}
      >
        {(['filled', 'mirror', 'missing'] as const).map((state) => (
          <Box component="li" key={state} sx={{ display: 'flex', alignItems: 'center', gap: 0.8 }}>
            <svg width={20} height={21} viewBox="-10 -10.5 20 21" aria-hidden>
              <SlotMark state={state} size={6.5} number={state === 'missing' ? 1 : undefined} />
            </svg>
            {STATE_WORDS[state]}
          </Box>
        ))}
      </Box>
      {!shown?.clip && (
        <Typography
          variant="caption"
          sx={{ position: 'absolute', right: 14, bottom: 8, textAlign: 'right', lineHeight: 1.25, pointerEvents: 'none' }}
        >
          a feather: how far it
          <br />
          turns in half a second
        </Typography>
      )}
      <Glimpse
        member={view.members.find((member) => member.doc.id === shown?.clip) ?? null}
        character={doc.character}
        label={shown ? nameOf(shown.clip) : ''}
      />
    </Box>
  );
  const table = (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', px: 2, pt: 1, minWidth: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 0.6, flexWrap: 'wrap' }}>
        <Typography variant="h1" component="p" role="status" sx={{ flex: 1, whiteSpace: 'nowrap' }}>
          <b>
            {counts.filled} of {reports.length} there
          </b>
          {counts.mirror > 0 && <> · {counts.mirror} by mirroring</>}
          {counts.missing > 0 && <> · {counts.missing} to capture</>}
        </Typography>
        {counts.mirror > 0 && (
          <Button variant="contained" onClick={mirror} sx={{ fontWeight: 700 }}>
            Mirror the {counts.mirror}
          </Button>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 0.4, mb: 0.6, ml: -0.8 }}>
        <Small onClick={() => setOpen('fill')}>fill from takes</Small>
        <Small onClick={() => setOpen('many')}>many at once</Small>
        <Small onClick={() => setOpen('slots')}>edit the slots</Small>
      </Box>
      <Rope reports={reports} />
      <Box sx={{ flex: 1, minHeight: 0, display: 'grid', mt: 0.6 }}>
        <CoverageTable
          reports={reports}
          nameOf={nameOf}
          shotOf={shotOf}
          onChoose={setChosen}
          onOpen={(report, anchor) => setCard({ slot: report.id, anchor })}
        />
      </Box>
      <HomeLine doc={doc} view={view} />
      <Worries worries={worries} onCard={(slot, anchor) => setCard({ slot, anchor })} />
    </Box>
  );
  return (
    <>
      <Commands
        place="set"
        commands={[
          ...(counts.mirror > 0 ? [{ id: 'mirror', label: `Mirror the ${counts.mirror} that the set lacks`, run: mirror }] : []),
          { id: 'fill', label: 'Fill the set from takes', run: () => setOpen('fill') },
          { id: 'many', label: 'Change many clips of the set at once', run: () => setOpen('many') },
          { id: 'slots', label: 'Edit the slots of the set', run: () => setOpen('slots') },
          { id: 'sheet', label: 'A sheet of the shot list for the floor', run: () => setOpen('sheet') },
        ]}
      />
      <Split
        id="set"
        vertical
        parts={[
          {
            id: 'coverage',
            name: 'The coverage',
            size: '77%',
            least: '45%',
            content: (
              <Split
                id="set-coverage"
                parts={[
                  { id: 'rose', name: 'The rose', size: '50%', least: '30%', content: rose },
                  { id: 'table', name: 'The table', size: '50%', least: '36%', content: table },
                ]}
              />
            ),
          },
          {
            id: 'shots',
            name: 'The shot list',
            size: '23%',
            least: '12%',
            content: <ShotList doc={doc} shots={measured.shots} takes={data?.takes ?? []} onSheet={() => setOpen('sheet')} />,
          },
        ]}
      />
      {card && open_ && (
        <SlotCard
          doc={doc}
          report={open_}
          anchor={card.anchor}
          nameOf={nameOf}
          shot={measured.shots.find(({ slot }) => slot === open_.id)?.text ?? null}
          onClose={() => setCard(null)}
        />
      )}
      {open === 'fill' && <FillFromTakes doc={doc} reports={reports} onClose={() => setOpen(null)} />}
      {open === 'many' && <ManyAtOnce doc={doc} view={view} onClose={() => setOpen(null)} />}
      {open === 'slots' && <SlotEditor doc={doc} onClose={() => setOpen(null)} />}
      {open === 'sheet' && <ShotSheet doc={doc} shots={measured.shots} onClose={() => setOpen(null)} />}
    </>
  );
}

/** What wants doing, one line at a time, each with what does it. */
function Worries({ worries, onCard }: { worries: readonly Worry[]; onCard: (slot: string, anchor: Element) => void }) {
  const [at, setAt] = useState(0);
  const index = Math.min(at, worries.length - 1);
  const worry = worries[index];
  return (
    <Box sx={{ minHeight: 34, display: 'flex', alignItems: 'center', gap: 1, borderTop: `1px solid ${chart('rule')}` }}>
      {worry ? (
        <>
          <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0 }} title={worry.text}>
            ▲ {worry.text}
          </Typography>
          <Button
            sx={{ color: chart('lampText'), fontWeight: 700, whiteSpace: 'nowrap' }}
            onClick={(event) => (worry.run ? worry.run() : onCard(worry.slot, event.currentTarget))}
          >
            {worry.act}
          </Button>
          {worries.length > 1 && (
            <Small name={`Next of ${worries.length} things to do`} onClick={() => setAt((index + 1) % worries.length)}>
              {index + 1} of {worries.length}
            </Small>
          )}
        </>
      ) : (
        <Typography variant="body2" color="text.secondary">
          Nothing is out of bounds, and no two clips contend.
        </Typography>
      )}
    </Box>
  );
}
