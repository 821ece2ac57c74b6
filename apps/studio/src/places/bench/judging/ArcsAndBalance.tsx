'use client';
import type { Smoothness, Unsteady } from '@lantern/motion';
import { Box, Button, Switch, Typography } from '@mui/material';
import { useMemo } from 'react';
import { numeral } from '@/controls/Figure';
import { Section } from '@/controls/folds';
import { Small } from '@/controls/Small';
import { chart } from '@/controls/theme';
import { toggleTrails, useStageOptions } from '@/stage/stage-options';
import type { Arc, ClipResult, Judged } from '@/worker/core.worker';

/** What an animator judges by eye, with its figures: how the arcs of chosen joints run, and whether the body stands. */
export function ArcsAndBalance({
  judged,
  shown,
  onGo,
}: {
  judged: Judged | null;
  shown: ClipResult | null;
  onGo: (frame: number) => void;
}) {
  const { balance, trails } = useStageOptions();
  const groups = useMemo(() => (shown ? groupsOf(shown) : []), [shown]);
  return (
    <Section id="bench judged" title="Arcs and balance">
      <Box role="group" aria-label="Joints that leave a trail" sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 0.4 }}>
        <Typography variant="body2" sx={{ flex: 1 }}>
          trails
        </Typography>
        {groups.map(({ label, joints }) => (
          <Small
            key={label}
            name={`Trails of ${label}`}
            pressed={joints.every((joint) => trails.includes(joint))}
            onClick={() => toggleTrails(joints)}
          >
            {label}
          </Small>
        ))}
      </Box>
      {judged?.arcs.map((arc) => (
        <ArcRow key={arc.joint} arc={arc} onGo={onGo} />
      ))}
      <Box sx={{ display: 'flex', alignItems: 'center', mt: 0.4 }}>
        <Typography variant="body2" sx={{ flex: 1 }}>
          balance
        </Typography>
        {balance && judged?.balance && (
          <Typography variant="body2" color="text.secondary">
            {standsOf(judged.balance.unsteady)}
          </Typography>
        )}
        <Switch
          size="small"
          color="default"
          checked={balance}
          onChange={(_, on) => useStageOptions.setState({ balance: on })}
          slotProps={{ input: { 'aria-label': 'Show the balance' } }}
        />
      </Box>
      {balance && judged?.balance && <UnsteadyList all={judged.balance.unsteady} cycle={shown?.cycle ?? 1} onGo={onGo} />}
    </Section>
  );
}

interface Group {
  readonly label: string;
  readonly joints: readonly string[];
}

/** Hands, feet, head and hips of the body that is shown. */
function groupsOf({ motion: { skeleton } }: ClipResult): Group[] {
  const { body, joints } = skeleton;
  if (!body) return [];
  const named = (all: readonly number[]) => all.filter((j) => j >= 0).map((j) => joints[j].name);
  const { arms, legs, head, hips } = body;
  return [
    { label: 'hands', joints: named([arms.left.wrist, arms.right.wrist]) },
    { label: 'feet', joints: named([legs.left.ankle, legs.right.ankle]) },
    { label: 'head', joints: named([head]) },
    { label: 'hips', joints: named([hips]) },
  ].filter((group) => group.joints.length > 0);
}

/** A joint's smoothness as captured and as it is, and where it jerks most. */
function ArcRow({ arc: { joint, smooth, was }, onGo }: { arc: Arc; onGo: (frame: number) => void }) {
  const before = was && numeral(was.ratio, 1) !== numeral(smooth.ratio, 1) ? `${numeral(was.ratio, 1)} → ` : '';
  return (
    <Box role="group" aria-label={`Arc of ${joint}`} sx={{ borderTop: `1px solid ${chart('rule')}`, py: 0.2 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="body2" noWrap sx={{ flex: 1, minWidth: 0 }}>
          {joint}
        </Typography>
        <Typography variant="body2" color="text.secondary" title="Jerk over that of the captured way low-passed; 1 is smooth" noWrap>
          jerk × {before}
          <Box component="strong" sx={{ color: 'text.primary' }}>
            {numeral(smooth.ratio, 1)}
          </Box>
        </Typography>
      </Box>
      <Kinks joint={joint} kinks={smooth.kinks} onGo={onGo} />
    </Box>
  );
}

function Kinks({ joint, kinks, onGo }: { joint: string; kinks: Smoothness['kinks']; onGo: (frame: number) => void }) {
  if (kinks.length === 0) return null;
  return (
    <Box role="list" aria-label={`Kinks of ${joint}, worst first`} sx={{ display: 'flex', gap: 0.4, ml: -0.8, flexWrap: 'wrap' }}>
      {kinks.map(({ frame, mm }) => (
        <Box key={frame} role="listitem">
          <Small name={`Go to the kink of ${joint} at frame ${frame}, ${numeral(mm, 1)} mm`} onClick={() => onGo(frame)}>
            {frame}: {numeral(mm, 1)} mm
          </Small>
        </Box>
      ))}
    </Box>
  );
}

const standsOf = (unsteady: readonly Unsteady[]): string =>
  unsteady.length === 0 ? 'it stands' : `cannot stand so: ${unsteady.length === 1 ? 'once' : `${unsteady.length} times`}`;

/** Where nobody could stand so, worst first. */
function UnsteadyList({ all, cycle, onGo }: { all: readonly Unsteady[]; cycle: number; onGo: (frame: number) => void }) {
  return (
    <Box role="list" aria-label="Where it could not stand so, worst first">
      {all.slice(0, 6).map(({ at, cm }) => (
        <Box key={at} role="listitem">
          <Button color="inherit" sx={{ px: 0.4, py: 0, fontWeight: 400 }} onClick={() => onGo(at)}>
            <Typography variant="body2">
              ▲ {numeral(-cm, 1)} cm outside, frame {at % Math.max(1, cycle)}
            </Typography>
          </Button>
        </Box>
      ))}
    </Box>
  );
}
