'use client';
import { clipNameSchema, type ClipTags } from '@lantern/motion';
import AddIcon from '@mui/icons-material/Add';
import CheckIcon from '@mui/icons-material/Check';
import CopyIcon from '@mui/icons-material/ContentCopy';
import SplitIcon from '@mui/icons-material/ContentCut';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import FlipIcon from '@mui/icons-material/Flip';
import BakeIcon from '@mui/icons-material/SaveAlt';
import { Box } from '@mui/material';
import { Sign } from '@/controls/Sign';
import { TypedText } from '@/controls/TypedText';
import type { ClipDoc } from '@/data/clips-store';
import { recut } from '@/data/new-clip';
import { whyNotCalled } from '@/data/why-not-called';

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
        <TypedText
          key={`name ${doc.id} ${doc.name}`}
          label="Clip name"
          value={doc.name}
          read={(text) => (clipNameSchema.safeParse(text).success ? text.trim() : null)}
          refuse={(text) => whyNotCalled(text, names, 'clip')}
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
        <TypedText
          key={`from ${doc.id} ${from}`}
          label="In"
          value={String(from)}
          read={(text) => frame(text, 0, to - 2)}
          onChange={(text) => onChange(recut(doc, { from: Number(text), to }))}
        />
        <TypedText
          key={`to ${doc.id} ${to}`}
          label="Out"
          value={String(to)}
          read={(text) => frame(text, from + 2, frames - 1)}
          onChange={(text) => onChange(recut(doc, { from, to: Number(text) }))}
        />
        {(['gait', 'direction'] as const).map((tag) => (
          <TypedText
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

const frame = (text: string, least: number, most: number) => {
  const value = Math.round(Number(text));
  return text.trim() !== '' && Number.isFinite(value) ? String(Math.min(most, Math.max(least, value))) : null;
};
