'use client';
import ContentCopyIcon from '@mui/icons-material/ContentCopyOutlined';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import EditIcon from '@mui/icons-material/EditOutlined';
import Inventory2Icon from '@mui/icons-material/Inventory2Outlined';
import { Box, Link as MuiLink, Typography } from '@mui/material';
import Link from 'next/link';
import { Sign } from '@/controls/Sign';
import { chart } from '@/controls/theme';
import type { ProjectRow } from '@/data/projects';
import { ProjectChart } from './ProjectChart';
import { holds, whenOf } from './words';

interface Props {
  readonly project: ProjectRow;
  /** Another is called the same: what it goes by in addresses tells them apart. */
  readonly hasNamesake: boolean;
  readonly onRename: () => void;
  readonly onCopy: () => void;
  readonly onArchive: () => void;
  readonly onRemove: () => void;
}

/** A project: the chart of its takes, what is in it, and what can be done with it as a whole. */
export function ProjectCard({ project, hasNamesake, onRename, onCopy, onArchive, onRemove }: Props) {
  const { id, name, character, fps, changed, paths } = project;
  return (
    <Box
      component="li"
      aria-label={name}
      onKeyDown={({ key }) => {
        if (key === 'F2') onRename();
        if (key === 'Delete') onRemove();
      }}
      sx={{
        position: 'relative',
        border: `1px solid ${chart('rule')}`,
        borderRadius: 1,
        bgcolor: chart('card'),
        overflow: 'hidden',
        '&:hover, &:focus-within': { borderColor: chart('ink') },
        '& .acts': { opacity: 0.6 },
        '&:hover .acts, &:focus-within .acts': { opacity: 1 },
      }}
    >
      <ProjectChart paths={paths} />
      <Box sx={{ px: 1.6, pt: 1, pb: 0.6, borderTop: `1px solid ${chart('rule')}` }}>
        <MuiLink
          component={Link}
          href={`/${id}/takes`}
          underline="none"
          color="inherit"
          // All of the card opens it; what can be done with it lies above.
          sx={{ '&::after': { content: '""', position: 'absolute', inset: 0 } }}
        >
          <Typography variant="h2" component="span" noWrap sx={{ display: 'block' }}>
            {name}
          </Typography>
        </MuiLink>
        <Typography variant="body2" noWrap>
          {character}, at {fps} frames a second{hasNamesake && `, /${id}`}
        </Typography>
        <Typography variant="body2" color="text.secondary" noWrap title={holds(project)}>
          {holds(project)}
        </Typography>
        <Box sx={{ display: 'flex', alignItems: 'center', mt: 0.4 }}>
          <Typography variant="body2" color="text.secondary" noWrap sx={{ flex: 1 }}>
            changed {whenOf(changed)}
          </Typography>
          <Box className="acts" sx={{ display: 'flex', position: 'relative', zIndex: 1, mr: -0.8 }}>
            <Sign name={`Rename ${name}`} keys="F2" onClick={onRename}>
              <EditIcon />
            </Sign>
            <Sign name={`Duplicate ${name}`} onClick={onCopy}>
              <ContentCopyIcon />
            </Sign>
            <Sign name={`Keep ${name} as an archive`} onClick={onArchive}>
              <Inventory2Icon />
            </Sign>
            <Sign name={`Remove ${name}`} keys="Del" onClick={onRemove}>
              <DeleteIcon />
            </Sign>
          </Box>
        </Box>
      </Box>
    </Box>
  );
}
