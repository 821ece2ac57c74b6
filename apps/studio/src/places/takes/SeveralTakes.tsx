'use client';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { TakeInfo } from '@/data/project';
import { changesOf, useTakeEdits } from '@/data/take-edits';
import { TagsField } from './NotesCard';
import { tagsOf } from './tags';

/** What can be done to several takes at once. */
export function SeveralTakes({
  takes,
  all,
  onStar,
  onRemove,
  onDone,
  onCompare,
}: {
  takes: readonly TakeInfo[];
  all: readonly TakeInfo[];
  onStar: (takes: readonly TakeInfo[]) => void;
  onRemove: (takes: readonly TakeInfo[]) => void;
  onDone: () => void;
  onCompare?: () => void;
}) {
  const { edit } = useTakeEdits();
  const [isTagging, setTagging] = useState(false);
  const shared = takes[0].tags.filter((tag) => takes.every((take) => take.tags.includes(tag)));
  const retag = (tags: readonly string[]) =>
    void edit(
      'tags',
      changesOf(takes, (take) => ({ tags: [...new Set([...take.tags.filter((tag) => !shared.includes(tag)), ...tags])] })),
    );
  return (
    <Box role="toolbar" aria-label="Chosen takes" sx={{ px: 1.5, pb: 0.8, display: 'grid', gap: 0.8 }}>
      <Box sx={{ display: 'flex', gap: 0.6, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="body2" sx={{ fontWeight: 700 }}>
          {takes.length} chosen
        </Typography>
        <Button sx={{ py: 0, minWidth: 0 }} color="inherit" variant="outlined" onClick={() => onStar(takes)}>
          star
        </Button>
        <Button
          sx={{ py: 0, minWidth: 0 }}
          color="inherit"
          variant="outlined"
          aria-expanded={isTagging}
          onClick={() => setTagging(!isTagging)}
        >
          tag…
        </Button>
        <Button sx={{ py: 0, minWidth: 0 }} color="inherit" variant="outlined" onClick={() => onRemove(takes)}>
          remove
        </Button>
        {onCompare && (
          <Button sx={{ py: 0, minWidth: 0 }} color="inherit" variant="outlined" onClick={onCompare}>
            compare
          </Button>
        )}
        <Button sx={{ py: 0, minWidth: 0 }} color="inherit" onClick={onDone}>
          none
        </Button>
      </Box>
      {isTagging && <TagsField label={`Tags of all ${takes.length}`} tags={shared} allTags={tagsOf(all)} onChange={retag} />}
    </Box>
  );
}
