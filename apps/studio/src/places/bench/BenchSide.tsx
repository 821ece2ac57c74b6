'use client';
import { BrokenRows } from '@/shell/BrokenRows';
import { tagsOfCut } from '@lantern/motion';
import { Box, Link, Typography } from '@mui/material';
import NextLink from 'next/link';
import { useMemo } from 'react';
import { Section } from '@/controls/folds';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { ClipHead } from './ClipHead';
import { CandidateList } from './glasses/CandidateList';
import { Proposals } from './glasses/Proposals';
import { SeamFigures } from './glasses/SeamFigures';
import { ArcsAndBalance } from './judging/ArcsAndBalance';
import { CorrectionsContext } from './layers/corrections-context';
import { useCorrectionsTools } from './layers/use-corrections-tools';
import { NoClip } from './Nothing';
import { RecipePanel } from './recipe/RecipePanel';
import type { Workbench } from './use-workbench';

/** The column at the right: the clip, where its take repeats, its figures and its recipe. */
export function BenchSide({ bench, take }: { bench: Workbench; take: TakeInfo }) {
  const { doc, docs, opened, acts, edits, put, reading, candidates, isSearching, cut, seam, measured, result } = bench;
  const names = useMemo(() => new Set(docs.filter((d) => d.id !== doc?.id).map((d) => d.name.toLowerCase())), [docs, doc]);
  const tools = useCorrectionsTools(bench, take);
  const project = useProjectInfo();
  return (
    <Box
      sx={{
        height: '100%',
        overflowY: 'auto',
        overflowX: 'hidden',
        p: 1.2,
        display: 'flex',
        flexDirection: 'column',
        gap: 1.4,
        minWidth: 0,
      }}
    >
      <BrokenRows kinds={['clip', 'character']} />
      {doc ? (
        <ClipHead
          doc={doc}
          offered={tagsOfCut(bench.segments, doc.source)}
          names={names}
          frames={opened.data?.motion.frames ?? doc.source.to + 1}
          onChange={put}
          onNew={edits.newClip}
          onSplit={edits.splitHere}
          onDuplicate={acts.duplicate}
          onOtherSide={acts.otherSide}
          onBake={acts.bake}
          onRemove={acts.remove}
        />
      ) : (
        <NoClip take={take.name} canOffer={reading !== undefined} onCut={edits.newClip} onOffer={bench.propose} />
      )}
      {take.join && (
        <Typography variant="caption" color="text.secondary">
          {doc ? 'Cut from the join ' : 'Of the join '}
          <Link component={NextLink} color="inherit" href={`/${project.id}/joins/${take.id}`}>
            {take.name}
          </Link>
          {doc ? ': it follows when a piece changes.' : ': what is cut here follows when a piece changes.'}
        </Typography>
      )}
      {result.error && (
        <Typography role="alert" variant="body2">
          ▲ {result.error.message}
        </Typography>
      )}
      {doc && (
        <Section id="bench recipe" title="Recipe">
          <CorrectionsContext value={tools}>
            <RecipePanel doc={doc} about={bench.about} onChange={put} />
          </CorrectionsContext>
        </Section>
      )}
      <CandidateList candidates={candidates} isSearching={isSearching} cut={cut} onTake={edits.takeLoop} />
      {doc && (
        <Section id="bench figures" title="Figures">
          <SeamFigures seam={seam} figures={measured?.figures ?? null} against={measured?.against ?? null} />
        </Section>
      )}
      {doc && <ArcsAndBalance judged={bench.judged} shown={bench.shown} onGo={bench.about.onGo} />}
      {bench.proposing && reading && (
        <Proposals
          proposals={reading.proposals}
          docs={docs.filter((d) => d.source.take === take.id)}
          fps={take.passport.fps}
          onMake={(chosen, pattern) => {
            bench.setProposing(false);
            acts.makeAll(chosen, pattern);
          }}
          onClose={() => bench.setProposing(false)}
        />
      )}
    </Box>
  );
}
