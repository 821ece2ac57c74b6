'use client';
import type { AnchorProposal, CleanFinding, StepOfKind } from '@lantern/motion';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, Switch, Typography } from '@mui/material';
import { useState } from 'react';
import { Choose, Label, Share } from '@/controls/fields';
import { Sign } from '@/controls/Sign';
import { Small } from '@/controls/Small';
import { StepCard } from '@/controls/StepCard';
import { chart } from '@/controls/theme';
import type { CardProps } from './card-props';

type CleanStep = StepOfKind<'clean'>;

const NO_ANCHORS: readonly AnchorProposal[] = [];
const ALIKE = { facing: 'faced the same way', mark: 'stood on the same mark' } as const;

/** Findings that are listed before more are asked for. */
const FEW = 6;

/** What the suit got wrong: what was found of it, worst first, and what is set right. */
export function CleanCard({ step, about, onChange }: CardProps<'clean'>) {
  const findings = about.measured?.steps[step.id]?.findings;
  const of = (kind: CleanFinding['kind']) => findings?.filter((finding) => finding.kind === kind) ?? [];
  return (
    <StepCard step={step} onChange={onChange}>
      <Found
        label="spikes"
        found={of('spike')}
        mended="set right"
        isOn={step.spikes}
        isKnown={findings !== undefined}
        onChange={(spikes) => onChange({ ...step, spikes })}
      />
      <Found
        label="gaps"
        found={of('gap')}
        mended="filled"
        isOn={step.gaps}
        isKnown={findings !== undefined}
        onChange={(gaps) => onChange({ ...step, gaps })}
      />
      <Share
        label="jitter"
        name="How much jitter is taken out"
        value={step.jitter}
        most={2}
        onChange={(jitter) => onChange({ ...step, jitter })}
      />
      {findings && findings.length > 0 && <Findings findings={findings} step={step} onChange={onChange} onGo={about.onGo} />}
      <FloorDrift step={step} rate={about.measured?.steps[step.id]?.floorRate} onChange={onChange} />
      <Drift
        step={step}
        anchors={about.measured?.steps[step.id]?.anchors ?? NO_ANCHORS}
        frameNow={about.frameNow}
        onGo={about.onGo}
        onChange={onChange}
      />
    </StepCard>
  );
}

/** One kind of flaw: how many there are, and whether they are set right. */
function Found({
  label,
  found,
  mended,
  isOn,
  isKnown,
  onChange,
}: {
  label: string;
  found: readonly CleanFinding[];
  mended: string;
  isOn: boolean;
  isKnown: boolean;
  onChange: (on: boolean) => void;
}) {
  const right = found.filter(({ isMended }) => isMended).length;
  const left = found.length - right;
  const said = !isKnown
    ? '…'
    : found.length === 0
      ? 'none found'
      : [right > 0 ? `${right} ${mended}` : '', left > 0 ? `${left} left` : ''].filter(Boolean).join(', ');
  return (
    <>
      <Label>{label}</Label>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'flex-end' }}>
        <Typography variant="body2">{said}</Typography>
        <Switch
          size="small"
          color="default"
          checked={isOn}
          onChange={(_, on) => onChange(on)}
          slotProps={{ input: { 'aria-label': `Set ${label} right` } }}
        />
      </Box>
    </>
  );
}

interface ListProps {
  readonly findings: readonly CleanFinding[];
  readonly step: CleanStep;
  readonly onChange: (step: CleanStep) => void;
  readonly onGo: (frame: number) => void;
}

/** Every flaw, the worst first: a click goes there, and a spike that is movement after all is kept. */
function Findings({ findings, step, onChange, onGo }: ListProps) {
  const [shows, setShows] = useState(FEW);
  const isKept = ({ joint, from }: CleanFinding) => step.keep.some((own) => own.joint === joint && own.frame === from);
  const toggle = (finding: CleanFinding) => {
    const keep = isKept(finding)
      ? step.keep.filter((own) => own.joint !== finding.joint || own.frame !== finding.from)
      : [...step.keep, { joint: finding.joint, frame: finding.from }];
    onChange({ ...step, keep });
  };
  return (
    <Box sx={{ gridColumn: '1 / -1' }}>
      <Box component="ul" aria-label="What was found, worst first" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {findings.slice(0, shows).map((finding) => {
          const { kind, joint, from, to, off, unit, isMended } = finding;
          const size = kind === 'gap' ? `${to - from} frames` : `${off.toFixed(1)} ${unit}`;
          return (
            <Box
              key={`${kind} ${joint} ${from}`}
              component="li"
              sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) auto auto', alignItems: 'center', columnGap: 1 }}
            >
              <Button
                color="inherit"
                onClick={() => onGo(from)}
                aria-label={`Go to the ${kind} of ${joint} at frame ${from}`}
                sx={{ justifyContent: 'flex-start', minWidth: 0, px: 0.4, py: 0, fontWeight: 400 }}
              >
                <Typography variant="body2" noWrap>
                  <span aria-hidden style={{ color: chart('lamp') }}>
                    {kind === 'spike' ? '▲ ' : '▬ '}
                  </span>
                  {joint}, {from}
                </Typography>
              </Button>
              <Typography variant="body2" color="text.secondary">
                {size}
              </Typography>
              {kind === 'spike' ? (
                <Small
                  name={isKept(finding) ? `Set ${joint} at ${from} right` : `Keep ${joint} at ${from}`}
                  onClick={() => toggle(finding)}
                >
                  {isKept(finding) ? 'kept' : 'keep'}
                </Small>
              ) : (
                <Typography variant="body2" color="text.secondary">
                  {isMended ? 'filled' : 'too long'}
                </Typography>
              )}
            </Box>
          );
        })}
      </Box>
      {findings.length > shows && (
        <Button color="inherit" sx={{ py: 0 }} onClick={() => setShows(shows + 4 * FEW)}>
          {findings.length - shows} more
        </Button>
      )}
    </Box>
  );
}

/** A floor that rises or sinks under the performer. @param rate metres a second; undefined until it is measured */
function FloorDrift({ step, rate, onChange }: { step: CleanStep; rate: number | undefined; onChange: (step: CleanStep) => void }) {
  const perMinute = rate === undefined ? null : 6000 * rate;
  const said =
    perMinute === null
      ? '…'
      : Math.abs(perMinute) < 0.5
        ? 'level'
        : `${perMinute > 0 ? 'rises' : 'sinks'} ${Math.abs(perMinute).toFixed(1)} cm a minute`;
  return (
    <>
      <Label>floor</Label>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'flex-end' }}>
        <Typography variant="body2">{said}</Typography>
        <Switch
          size="small"
          color="default"
          checked={step.floor}
          onChange={(_, floor) => onChange({ ...step, floor })}
          slotProps={{ input: { 'aria-label': 'Make a drifting floor level' } }}
        />
      </Box>
    </>
  );
}

interface DriftProps {
  readonly step: CleanStep;
  /** Instants that may have been alike. */
  readonly anchors: readonly AnchorProposal[];
  readonly frameNow: () => number;
  readonly onGo: (frame: number) => void;
  readonly onChange: (step: CleanStep) => void;
}

/** Instants that were alike, between which a heading that drifts is turned back. */
function Drift({ step, anchors, frameNow, onGo, onChange }: DriftProps) {
  const { by, frames } = step.drift;
  const put = (next: readonly number[]) => onChange({ ...step, drift: { by, frames: [...new Set(next)].sort((a, b) => a - b) } });
  return (
    <>
      <Choose label="heading" value={by} options={ALIKE} onChange={(next) => onChange({ ...step, drift: { by: next, frames } })} />
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', flexWrap: 'wrap', alignItems: 'center', columnGap: 0.6 }}>
        <Typography variant="body2" color="text.secondary">
          {frames.length === 0 ? 'in no frame yet' : 'in frames'}
        </Typography>
        {frames.map((frame) => (
          <Box key={frame} sx={{ display: 'inline-flex', alignItems: 'center' }}>
            <Small name={`Go to frame ${frame}`} onClick={() => onGo(frame)}>
              {frame}
            </Small>
            <Sign name={`Take frame ${frame} out`} onClick={() => put(frames.filter((own) => own !== frame))}>
              <CloseIcon />
            </Sign>
          </Box>
        ))}
        <Small name="Add the frame under the playhead" onClick={() => put([...frames, frameNow()])}>
          add this frame
        </Small>
        {frames.length === 0 &&
          anchors.map((own) => (
            <Small
              key={`${own.by} ${own.frames.join()}`}
              name={`Take the ${own.frames.length} frames in which he ${ALIKE[own.by]}: ${own.frames.join(', ')}`}
              onClick={() => onChange({ ...step, drift: { by: own.by, frames: [...own.frames] } })}
            >
              {ALIKE[own.by]} {own.frames.length} times?
            </Small>
          ))}
        {frames.length === 1 && (
          <Typography variant="body2" role="status">
            one more is needed
          </Typography>
        )}
      </Box>
    </>
  );
}
