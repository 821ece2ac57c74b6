'use client';
import { Handle, Position, type NodeProps } from '@xyflow/react';
import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import { chart } from '@/controls/theme';
import { COMMENT, useShared } from './chart-shared';
import { COMMENT_WIDTH, rowsOf } from './chart-words';

/** Words that somebody has written into the picture; they go when they are emptied. */
export function Comment({ id }: NodeProps) {
  const { graph, onComment } = useShared();
  const index = Number(id.slice(COMMENT.length));
  const text = graph.comments[index]?.text ?? '';
  const [draft, setDraft] = useState<string | null>(null);
  const finish = () => {
    if (draft !== null && draft !== text) onComment(index, draft.trim() === '' ? null : { text: draft.trim().slice(0, 500) });
    setDraft(null);
  };
  return (
    <textarea
      aria-label="Comment in the picture"
      rows={rowsOf(draft ?? text)}
      value={draft ?? text}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={finish}
      style={{
        width: COMMENT_WIDTH,
        border: 0,
        background: 'transparent',
        font: 'italic 15px Alegreya',
        color: chart('faint'),
        resize: 'none',
        outlineOffset: 3,
      }}
    />
  );
}

/** Where channels begin that lead from anything. */
export function Anywhere() {
  return (
    <Box
      sx={{
        width: 120,
        height: 34,
        display: 'grid',
        placeItems: 'center',
        border: `1px dashed ${chart('faint')}`,
        borderRadius: 4,
        bgcolor: chart('paper'),
      }}
    >
      <Typography variant="body2" sx={{ fontStyle: 'italic' }}>
        from anywhere
      </Typography>
      <Handle type="source" position={Position.Bottom} />
      <Handle type="target" position={Position.Top} style={{ visibility: 'hidden' }} />
    </Box>
  );
}
