'use client';
import { Box, Typography } from '@mui/material';
import { useRouter } from 'next/navigation';
import { createContext, useContext, useMemo, useRef, type ReactNode, type RefObject } from 'react';
import { useDropzone } from 'react-dropzone';
import { chart } from '@/controls/theme';
import { useProjectInfo, type TakeInfo } from '@/data/project';
import { Arrivals } from './Arrivals';
import { useBringIn } from './use-bring-in';

interface Desk {
  /** Opens the file dialog. */
  readonly browse: () => void;
  /** Brings files in and says which takes of the project they are. */
  readonly bringIn: (files: readonly File[]) => Promise<readonly TakeInfo[]>;
  /** What becomes of files that are dropped on a take of the list (an element with `data-take`). */
  readonly onTake: RefObject<((take: string, files: readonly File[]) => void) | null>;
}

const DeskContext = createContext<Desk>({ browse: () => {}, bringIn: () => Promise.resolve([]), onTake: { current: null } });
export const useImportDesk = () => useContext(DeskContext);

/** The whole window takes files; each shows its progress, and one bad file never stops the others. */
export function ImportDesk({ children }: { children: ReactNode }) {
  const project = useProjectInfo();
  const router = useRouter();
  const { arrivals, bringIn, clear } = useBringIn();
  const onTake: Desk['onTake'] = useRef(null);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (files, _, event) => {
      const target = 'target' in event ? event.target : null;
      const under = target instanceof Element ? target.closest<HTMLElement>('[data-take]')?.dataset.take : undefined;
      if (under && onTake.current) return onTake.current(under, files);
      void bringIn(files).then((takes) => {
        const last = takes.at(-1);
        if (last) router.push(`/${project.id}/takes/${last.id}`);
      });
    },
    noClick: true,
    noKeyboard: true,
  });
  const desk = useMemo(() => ({ browse: open, bringIn, onTake }), [open, bringIn]);
  return (
    <DeskContext value={desk}>
      <div {...getRootProps()}>
        <input {...getInputProps({ 'aria-label': 'Take files' })} />
        {children}
        {isDragActive && <LetGo />}
      </div>
      <Arrivals arrivals={arrivals} onClose={clear} />
    </DeskContext>
  );
}

/** What the window says while files are over it. */
function LetGo() {
  return (
    <Box
      sx={{
        position: 'fixed',
        inset: 0,
        zIndex: 1400,
        display: 'grid',
        placeItems: 'center',
        textAlign: 'center',
        bgcolor: 'rgba(14,29,33,0.55)',
        border: `4px solid ${chart('lamp')}`,
        pointerEvents: 'none',
      }}
    >
      <Typography sx={{ fontFamily: 'Alegreya', fontSize: 30, color: '#F5F0E4' }}>
        Let go to bring these takes in
        <br />
        <span style={{ fontSize: 20 }}>or on a take of the list, to redeliver it</span>
      </Typography>
    </Box>
  );
}
