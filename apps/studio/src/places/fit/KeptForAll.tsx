'use client';
import { PARTS, partName, type FitOverrides, type Part } from '@lantern/motion';
import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import { numeral } from '@/controls/Figure';
import { Choose } from '@/controls/fields';
import { TurnFields, type Turn } from './TurnFields';

const SOURCES = { target: 'its own build', scaled: 'the take, scaled by the bones', source: 'the take, as captured' } as const;

/** Where the translation of a joint comes from: most keep what they were built with. */
export function Translations({
  settings,
  joints,
  onChange,
}: {
  settings: FitOverrides;
  joints: readonly string[];
  onChange: (settings: FitOverrides) => void;
}) {
  const [joint, setJoint] = useState(joints[0] ?? '');
  const translations = settings.translations ?? {};
  const set = Object.entries(translations).filter(([, from]) => from !== 'target');
  if (joints.length === 0) return null;
  return (
    <>
      <Typography variant="h3" sx={{ mt: 1.2 }}>
        Translation of a joint
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', alignItems: 'center', columnGap: 1.5 }}>
        <Choose label="joint" value={joint} options={Object.fromEntries(joints.map((name) => [name, name]))} onChange={setJoint} />
        <Choose
          label="comes from"
          value={translations[joint] ?? 'target'}
          options={SOURCES}
          onChange={(from) => onChange({ ...settings, translations: { ...translations, [joint]: from } })}
        />
      </Box>
      {set.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          {set.map(([name, from]) => `${name}: ${SOURCES[from]}`).join(' · ')}
        </Typography>
      )}
    </>
  );
}

/** Rotations that stay live for all clips of the pair, part by part. */
export function Offsets({ settings, onChange }: { settings: FitOverrides; onChange: (settings: FitOverrides) => void }) {
  const [part, setPart] = useState<Part>('leftCollar');
  const offsets = settings.offsets ?? {};
  const turn: Turn = offsets[part] ?? [0, 0, 0];
  const put = (which: Part, next: Turn) => {
    const all = { ...offsets };
    if (next.some((v) => v !== 0)) all[which] = next;
    else delete all[which];
    onChange({ ...settings, offsets: all });
  };
  const set = PARTS.filter((p) => offsets[p]);
  return (
    <>
      <Typography variant="h3" sx={{ mt: 1.2 }}>
        Rotations added
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'auto 1fr', alignItems: 'center', columnGap: 1.5 }}>
        <Choose
          label="part"
          value={part}
          options={Object.fromEntries(PARTS.map((p) => [p, partName(p)])) as Record<Part, string>}
          onChange={setPart}
        />
      </Box>
      <Box role="group" aria-label={`Rotation added to the ${partName(part)}`}>
        <TurnFields name="Added" part={part} turn={turn} onTurn={put} />
      </Box>
      {set.length > 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.4 }}>
          {set.map((p) => `${partName(p)} ${(offsets[p] ?? []).map((v) => `${numeral(v, 0)}°`).join(' ')}`).join(' · ')}
        </Typography>
      )}
    </>
  );
}
