'use client';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Link as Words, Typography } from '@mui/material';
import Link from 'next/link';
import { chart } from '@/controls/theme';
import { useClips } from '@/data/clips-store';
import { useProjectInfo } from '@/data/project';
import type { SetDoc } from '@/data/sets-store';
import { RunnersUp } from './RunnersUp';

/** All that a draft has chosen: slot by slot the clip, why, and what would have done too; what is doubtful; what was changed so that it plays calmly. */
export function ChoicesDialog({ doc, onClose }: { readonly doc: SetDoc; readonly onClose: () => void }) {
  const project = useProjectInfo();
  const clips = useClips((state) => state.docs);
  const { draft } = doc;
  if (!draft) return null;
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth aria-labelledby="choices-title">
      <DialogTitle id="choices-title" sx={{ fontFamily: 'Alegreya' }}>
        How “{doc.name}” was drafted
      </DialogTitle>
      <DialogContent>
        <Box component="ul" aria-label="Choices" sx={{ m: 0, p: 0, listStyle: 'none' }}>
          {draft.choices.map((choice) => {
            const clip = clips.find(({ id }) => id === choice.clip);
            return (
              <Box
                component="li"
                key={choice.slot}
                aria-label={choice.slot}
                sx={{
                  display: 'grid',
                  gridTemplateColumns: 'minmax(150px, 1fr) minmax(150px, 1fr) minmax(0, 2.2fr)',
                  columnGap: 2,
                  py: 0.6,
                  borderBottom: `1px solid ${chart('rule')}`,
                }}
              >
                <Typography>{choice.slot.split('/').join(' · ')}</Typography>
                {clip ? (
                  <Words component={Link} href={`/${project.id}/bench/${clip.id}`} color="inherit" noWrap sx={{ fontWeight: 700 }}>
                    {clip.name}
                  </Words>
                ) : (
                  <Typography color="text.secondary">{choice.clip ? 'its clip was removed' : 'to capture'}</Typography>
                )}
                <Box sx={{ minWidth: 0 }}>
                  <Typography variant="body2">{choice.why}</Typography>
                  {choice.out.map((words) => (
                    <Typography key={words} variant="body2" sx={{ fontWeight: 700 }}>
                      ▲ out of bounds: {words}
                    </Typography>
                  ))}
                  {clip && <RunnersUp doc={doc} choice={choice} />}
                </Box>
              </Box>
            );
          })}
        </Box>
        <Notes title="Doubts" lines={draft.doubts.map(({ take, what }) => `${take}: ${what}`)} />
        <Notes title="Changed in the graph, so that it plays calmly" lines={draft.changes} />
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Notes({ title, lines }: { readonly title: string; readonly lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <Box component="section" aria-label={title} sx={{ mt: 2 }}>
      <Typography variant="h3">{title}</Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.2 }}>
        {lines.map((line) => (
          <Typography component="li" variant="body2" key={line}>
            {line}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}
