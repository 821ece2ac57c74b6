'use client';
import { clipNameSchema, type ClipTags } from '@lantern/motion';
import AddIcon from '@mui/icons-material/Add';
import CheckIcon from '@mui/icons-material/Check';
import CopyIcon from '@mui/icons-material/ContentCopy';
import SplitIcon from '@mui/icons-material/ContentCut';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import FlipIcon from '@mui/icons-material/Flip';
import BakeIcon from '@mui/icons-material/SaveAlt';
import { Box, InputBase, Typography } from '@mui/material';
import { useState, type KeyboardEvent } from 'react';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import type { ClipDoc } from '@/data/clips-store';
import { recut } from '@/data/new-clip';

/** Name and cut of the clip, typed as well as dragged. */
export function ClipHead({
  doc,
  offered,
  names,
  frames,
  onChange,
  onNew,
  onSplit,
  onDuplicate,
  onOtherSide,
  onBake,
  onRemove,
}: {
  doc: ClipDoc;
  /** Gait and direction as measured; taken with a click. */
  offered: ClipTags;
  /** Of the other clips, in small letters. */
  names: ReadonlySet<string>;
  frames: number;
  onChange: (doc: ClipDoc) => void;
  onNew: () => void;
  onSplit: () => void;
  onDuplicate: () => void;
  onOtherSide: () => void;
  onBake: () => void;
  onRemove: () => void;
}) {
  const { from, to } = doc.source;
  return (
    <Box component="section" aria-label="Clip" sx={{ display: 'grid', gridTemplateColumns: 'minmax(0, 1fr)', gap: 0.8 }}>
      <Box sx={{ display: 'flex', gap: 0.2, alignItems: 'end', minWidth: 0 }}>
        <Typed
          key={`name ${doc.id} ${doc.name}`}
          label="Clip name"
          value={doc.name}
          read={(text) => (clipNameSchema.safeParse(text).success ? text.trim() : null)}
          refuse={(text) => refusal(text, names)}
          onChange={(name) => onChange({ ...doc, name })}
          isTitle
        />
        <Sign name="Split this clip at the playhead" keys="X" onClick={onSplit}>
          <SplitIcon />
        </Sign>
        <Sign name="Duplicate this clip" onClick={onDuplicate}>
          <CopyIcon />
        </Sign>
        <Sign name="Make the other side of this clip" keys="Y" onClick={onOtherSide}>
          <FlipIcon />
        </Sign>
        <Sign name="Bake this clip to a take of its own" onClick={onBake}>
          <BakeIcon />
        </Sign>
        <Sign name="Remove this clip" onClick={onRemove}>
          <DeleteIcon />
        </Sign>
        <Sign name="New clip" keys="N" onClick={onNew}>
          <AddIcon />
        </Sign>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '54px 54px minmax(0, 1fr) minmax(0, 1fr) auto', columnGap: 1, alignItems: 'end' }}>
        <Typed
          key={`from ${doc.id} ${from}`}
          label="In"
          value={String(from)}
          read={(text) => frame(text, 0, to - 2)}
          onChange={(text) => onChange(recut(doc, { from: Number(text), to }))}
        />
        <Typed
          key={`to ${doc.id} ${to}`}
          label="Out"
          value={String(to)}
          read={(text) => frame(text, from + 2, frames - 1)}
          onChange={(text) => onChange(recut(doc, { from, to: Number(text) }))}
        />
        {(['gait', 'direction'] as const).map((tag) => (
          <Typed
            key={`${tag} ${doc.id} ${doc[tag]}`}
            label={tag === 'gait' ? 'Gait' : 'Direction'}
            value={doc[tag]}
            placeholder={offered[tag]}
            read={(text) => text.trim().slice(0, 60)}
            onChange={(text) => onChange({ ...doc, [tag]: text })}
          />
        ))}
        {(offered.gait !== doc.gait || offered.direction !== doc.direction) && offered.gait !== '' && (
          <Sign name="Take gait and direction as measured" onClick={() => onChange({ ...doc, ...offered })}>
            <CheckIcon />
          </Sign>
        )}
      </Box>
    </Box>
  );
}

/** Why a clip cannot be called so. */
function refusal(text: string, names: ReadonlySet<string>): string | null {
  if (names.has(text.trim().toLowerCase())) return 'another clip is called that';
  return text.trim() === '' || clipNameSchema.safeParse(text).success ? null : 'no file can be called that';
}

const frame = (text: string, least: number, most: number) => {
  const value = Math.round(Number(text));
  return text.trim() !== '' && Number.isFinite(value) ? String(Math.min(most, Math.max(least, value))) : null;
};

/** A field that takes effect on Enter or on leaving it; what cannot be read is put back. */
function Typed({
  label,
  value,
  placeholder,
  read,
  refuse,
  onChange,
  isTitle,
}: {
  label: string;
  value: string;
  placeholder?: string;
  read: (text: string) => string | null;
  /** Why a text cannot be taken. */
  refuse?: (text: string) => string | null;
  onChange: (text: string) => void;
  isTitle?: boolean;
}) {
  const [text, setText] = useState(value);
  const problem = text === value ? null : (refuse?.(text) ?? null);
  const commit = () => {
    const next = problem ? null : read(text);
    if (next !== null && next !== value) onChange(next);
    else setText(value);
  };
  return (
    <Box sx={{ flex: isTitle ? 1 : undefined, minWidth: 0 }}>
      <Typography
        variant="caption"
        color="text.secondary"
        noWrap
        component="div"
        sx={{ lineHeight: 1.15 }}
        role={problem ? 'alert' : undefined}
      >
        {problem ? `▲ ${problem}` : label.toLowerCase()}
      </Typography>
      <InputBase
        value={text}
        placeholder={placeholder}
        fullWidth
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event: KeyboardEvent<HTMLInputElement>) => {
          if (event.key === 'Enter' && event.target instanceof HTMLElement) event.target.blur();
          if (event.key === 'Escape') setText(value);
        }}
        inputProps={{ 'aria-label': label, 'aria-invalid': problem !== null }}
        sx={{
          fontSize: isTitle ? '1.05rem' : '0.95rem',
          fontWeight: isTitle ? 700 : 400,
          borderBottom: `1px solid ${chart(problem ? 'ink' : 'rule')}`,
          '& input': { p: 0, pb: 0.2, textOverflow: 'ellipsis' },
        }}
      />
    </Box>
  );
}
