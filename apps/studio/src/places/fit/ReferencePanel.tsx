'use client';
import { PARTS, partName, type FitOverrides, type Part } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { numeral } from '@/controls/Figure';
import { chart } from '@/controls/theme';
import type { FitView } from '@/worker/core.worker';
import { Choose } from '@/controls/fields';
import { PartMark } from './PartMark';
import { TurnFields, type Turn } from './TurnFields';

type Reference = NonNullable<FitOverrides['reference']>;

const PLAIN: Reference = { source: 'T', target: 'T', turns: { source: {}, target: {} } };
const KINDS = { T: 'straightened, arms out', A: 'straightened, arms half down', rest: 'as it rests' } as const;
/** Bones further apart than this are marked, degrees. */
const APART = 10;

/** A part of one of the two that is turned by hand. */
export interface ByHand {
  readonly part: Part;
  readonly side: 'source' | 'target';
}

/** The settings with a part of one side's reference turned otherwise. */
export function withTurn(settings: FitOverrides, side: ByHand['side'], part: Part, turn: Turn): FitOverrides {
  const reference = settings.reference ?? PLAIN;
  const turns = { ...reference.turns[side], [part]: turn };
  if (turn.every((v) => v === 0)) delete turns[part];
  return { ...settings, reference: { ...reference, turns: { ...reference.turns, [side]: turns } } };
}

/** The pose in which both skeletons count as the same: what it is on either side, what is left between them, and turning it by hand. */
export function ReferencePanel({
  view,
  settings,
  hand: { part, side },
  onHand,
  onChange,
  onTakePose,
}: {
  view: FitView;
  settings: FitOverrides;
  /** What is turned by hand: here, or by the ring about it on the stage. */
  hand: ByHand;
  onHand: (hand: ByHand) => void;
  onChange: (settings: FitOverrides) => void;
  /** The pose under the playhead, as a reference of the source. */
  onTakePose: () => void;
}) {
  const reference = settings.reference ?? PLAIN;
  const put = (change: Partial<Reference>) => onChange({ ...settings, reference: { ...reference, ...change } });
  const isPose = typeof reference.source === 'object';
  const rows = PARTS.filter((p) => view.mismatch[p] !== undefined).sort((a, b) => (view.mismatch[b] ?? 0) - (view.mismatch[a] ?? 0));
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', alignItems: 'center', columnGap: 1.5, px: 1.5, pt: 1 }}>
        <Choose
          label="the take"
          value={typeof reference.source === 'object' ? 'pose' : reference.source}
          options={
            isPose
              ? { ...KINDS, pose: reference.source instanceof Object ? reference.source.label || 'a frame' : 'a frame' }
              : { ...KINDS, pose: 'the frame at the playhead' }
          }
          onChange={(kind) => (kind === 'pose' ? onTakePose() : put({ source: kind }))}
        />
        <Choose label="the character" value={reference.target} options={KINDS} onChange={(target) => put({ target })} />
      </Box>
      <ByHandCard
        hand={{ part, side }}
        parts={rows}
        turn={reference.turns[side][part] ?? [0, 0, 0]}
        onHand={onHand}
        onTurn={(which, turn) => onChange(withTurn(settings, side, which, turn))}
      />
      <Mismatch parts={rows} degreesOf={(p) => view.mismatch[p] ?? 0} />
    </Box>
  );
}

interface ByHandProps {
  readonly hand: ByHand;
  readonly parts: readonly Part[];
  readonly turn: Turn;
  readonly onHand: (hand: ByHand) => void;
  readonly onTurn: (part: Part, turn: Turn) => void;
}

/** One part of one side, turned by hand about the axes of the world. */
function ByHandCard({ hand: { part, side }, parts, turn, onHand, onTurn }: ByHandProps) {
  return (
    <Box
      role="group"
      aria-label="Turn by hand"
      sx={{ m: 1.5, mt: 1, p: 1.2, border: `1px solid ${chart('rule')}`, borderRadius: 1, bgcolor: chart('card') }}
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', alignItems: 'center', columnGap: 1.5 }}>
        <Choose
          label="turn by hand"
          value={part}
          options={Object.fromEntries(parts.map((p) => [p, partName(p)])) as Record<Part, string>}
          onChange={(next) => onHand({ part: next, side })}
        />
        <Choose
          label="of"
          value={side}
          options={{ target: 'the character', source: 'the take' }}
          onChange={(next) => onHand({ part, side: next })}
        />
      </Box>
      <Typography variant="body2" color="text.secondary">
        Click a joint on the stage and drag the ring about it, 5° at a time or with Alt by any angle; or type:
      </Typography>
      <TurnFields name="Turn" part={part} turn={turn} onTurn={onTurn} />
    </Box>
  );
}

/** How far the bones of the two are apart in the reference, the worst first. */
function Mismatch({ parts, degreesOf }: { parts: readonly Part[]; degreesOf: (part: Part) => number }) {
  return (
    <Box sx={{ flex: 1, overflow: 'auto', minHeight: 0, px: 1.5 }}>
      <Typography variant="body2" color="text.secondary">
        What is left between the two, bone by bone:
      </Typography>
      <Box component="ul" aria-label="Mismatch of the references" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {parts.map((p) => {
          const degrees = degreesOf(p);
          return (
            <Box
              component="li"
              key={p}
              sx={{
                display: 'grid',
                gridTemplateColumns: '14px 130px 1fr 62px',
                alignItems: 'center',
                gap: 1,
                borderTop: `1px solid ${chart('rule')}`,
                py: 0.15,
              }}
            >
              <PartMark part={p} />
              <Typography variant="body2">{partName(p)}</Typography>
              <Box sx={{ height: 6, bgcolor: chart('rule'), borderRadius: 1 }}>
                <Box sx={{ height: 6, width: `${Math.min(100, (100 * degrees) / 45)}%`, bgcolor: 'text.secondary', borderRadius: 1 }} />
              </Box>
              <Typography variant="body2" sx={{ textAlign: 'right' }}>
                {degrees > APART && '▲ '}
                {numeral(degrees, 1)}°
              </Typography>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
