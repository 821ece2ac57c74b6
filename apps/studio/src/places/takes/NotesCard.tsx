'use client';
import { Autocomplete, Box, TextField } from '@mui/material';
import { useState } from 'react';
import type { TakeInfo } from '@/data/project';
import type { TakePatch } from '@lantern/motion';

/** Name, tags and notes of a take. */
export function NotesCard({
  take,
  allTags,
  onChange,
}: {
  take: TakeInfo;
  allTags: readonly string[];
  onChange: (patch: TakePatch) => void;
}) {
  return (
    <Box component="section" aria-label="Name, tags and notes" sx={{ display: 'grid', gap: 1.4, pt: 1 }}>
      <TextDraft
        key={`name ${take.id} ${take.name}`}
        label="Name"
        value={take.name}
        onChange={(name) => name.trim() && onChange({ name: name.trim() })}
      />
      <TagsField label="Tags" tags={take.tags} allTags={allTags} onChange={(tags) => onChange({ tags: [...tags] })} />
      <TextDraft key={`notes ${take.id} ${take.notes}`} label="Notes" value={take.notes} isLong onChange={(notes) => onChange({ notes })} />
    </Box>
  );
}

/** Tags typed freely, those of the project offered. */
export function TagsField({
  label,
  tags,
  allTags,
  onChange,
}: {
  label: string;
  tags: readonly string[];
  allTags: readonly string[];
  onChange: (tags: readonly string[]) => void;
}) {
  return (
    <Autocomplete
      multiple
      freeSolo
      size="small"
      options={[...allTags]}
      value={[...tags]}
      onChange={(_, value) => onChange([...new Set(value.map((tag) => tag.trim().replace(/^#/, '').slice(0, 40)).filter(Boolean))])}
      renderInput={(params) => <TextField {...params} label={label} placeholder={tags.length === 0 ? 'type and press Enter' : ''} />}
    />
  );
}

/** Text that takes effect when left, or on Enter where it is one line; Escape takes it back. */
function TextDraft({
  label,
  value,
  isLong = false,
  onChange,
}: {
  label: string;
  value: string;
  isLong?: boolean;
  onChange: (value: string) => void;
}) {
  const [draft, setDraft] = useState(value);
  return (
    <TextField
      label={label}
      value={draft}
      multiline={isLong}
      minRows={isLong ? 3 : undefined}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => draft !== value && onChange(draft)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' && !isLong && draft !== value) onChange(draft);
        if (event.key === 'Escape') setDraft(value);
      }}
      slotProps={{ htmlInput: { maxLength: isLong ? 10_000 : 120 } }}
    />
  );
}
