'use client';
import type { ClipTags } from '@lantern/motion';
import { Box, Button, TextField } from '@mui/material';
import { useState } from 'react';
import type { ClipDoc } from '@/data/clips-store';
import { recut } from '@/data/new-clip';
import { Small } from '@/controls/Small';

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
  return (
    <Box component="section" aria-label="Clip" sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 0.5, alignItems: 'center' }}>
        <Typed
          key={`name ${doc.id} ${doc.name}`}
          label="Clip name"
          value={doc.name}
          read={(text) => text.trim().slice(0, 120) || null}
          refuse={(text) => (names.has(text.trim().toLowerCase()) ? 'another clip is called that' : null)}
          onChange={(name) => onChange({ ...doc, name })}
          grow
        />
        <Button color="inherit" onClick={onNew} title="N">
          new
        </Button>
        <Button color="inherit" onClick={onRemove} sx={{ minWidth: 0 }}>
          remove
        </Button>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', rowGap: 0.3 }}>
        <Typed
          key={`from ${doc.id} ${doc.source.from}`}
          label="In"
          value={String(doc.source.from)}
          read={(text) => frame(text, 0, doc.source.to - 2)}
          onChange={(text) => onChange(recut(doc, { from: Number(text), to: doc.source.to }))}
        />
        <Typed
          key={`to ${doc.id} ${doc.source.to}`}
          label="Out"
          value={String(doc.source.to)}
          read={(text) => frame(text, doc.source.from + 2, frames - 1)}
          onChange={(text) => onChange(recut(doc, { from: doc.source.from, to: Number(text) }))}
        />
        <Box sx={{ flex: 1 }} />
        <Small onClick={onSplit} name="Split the clip at the playhead">
          split
        </Small>
        <Small onClick={onDuplicate}>duplicate</Small>
        <Small name="Make the other side of the clip" onClick={onOtherSide}>
          other side
        </Small>
        <Small name="Bake the clip to a take of its own" onClick={onBake}>
          bake
        </Small>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        {(['gait', 'direction'] as const).map((tag) => (
          <Typed
            key={`${tag} ${doc.id} ${doc[tag]}`}
            label={tag === 'gait' ? 'Gait' : 'Direction'}
            value={doc[tag]}
            placeholder={offered[tag]}
            read={(text) => text.trim().slice(0, 60)}
            onChange={(text) => onChange({ ...doc, [tag]: text })}
            grow
          />
        ))}
        {(offered.gait !== doc.gait || offered.direction !== doc.direction) && offered.gait !== '' && (
          <Small name="Take gait and direction as measured" onClick={() => onChange({ ...doc, ...offered })}>
            as measured
          </Small>
        )}
      </Box>
    </Box>
  );
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
  grow,
}: {
  label: string;
  value: string;
  placeholder?: string;
  read: (text: string) => string | null;
  /** Why a text cannot be taken. */
  refuse?: (text: string) => string | null;
  onChange: (text: string) => void;
  grow?: boolean;
}) {
  const [text, setText] = useState(value);
  const problem = text === value ? null : (refuse?.(text) ?? null);
  const commit = () => {
    const next = problem ? null : read(text);
    if (next !== null && next !== value) onChange(next);
    else setText(value);
  };
  return (
    <TextField
      label={problem ?? label}
      error={problem !== null}
      value={text}
      placeholder={placeholder}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
      sx={{ flex: grow ? 1 : undefined, width: grow ? undefined : 92 }}
      slotProps={{
        inputLabel: placeholder ? { shrink: true } : undefined,
        htmlInput: {
          onKeyDown: (event: React.KeyboardEvent<HTMLInputElement>) => {
            if (event.key === 'Enter') event.currentTarget.blur();
            if (event.key === 'Escape') setText(value);
          },
        },
      }}
    />
  );
}
