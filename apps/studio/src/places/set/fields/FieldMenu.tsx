import { Box, Menu, MenuItem } from '@mui/material';
import { TypedText } from '@/controls/TypedText';
import { editSet, type FieldDoc, type SetDoc } from '@/data/sets-store';

interface Props {
  /** Where it opens; null while it is closed. */
  readonly anchor: HTMLElement | null;
  readonly onClose: () => void;
  readonly doc: SetDoc;
  readonly field: FieldDoc;
  readonly put: (change: Partial<FieldDoc>) => void;
}

/** What a field is called and asked by, and its removal. */
export function FieldMenu({ anchor, onClose, doc, field, put }: Props) {
  return (
    <Menu anchorEl={anchor} open={anchor !== null} onClose={onClose}>
      <Box sx={{ px: 2, py: 0.5, width: 220 }}>
        <TypedText
          key={field.name}
          label="Name"
          value={field.name}
          read={(text) => text.trim() || null}
          onChange={(name) => put({ name })}
        />
      </Box>
      {([['speed'], ['speed', 'turn'], ['speed', 'direction']] as const).map((inputs) => (
        <MenuItem
          key={inputs.join()}
          dense
          selected={inputs.join() === field.inputs.join()}
          onClick={() => {
            onClose();
            put({ inputs: [...inputs] as FieldDoc['inputs'] });
          }}
        >
          by {inputs.join(' and ')}
        </MenuItem>
      ))}
      <MenuItem
        dense
        onClick={() => {
          onClose();
          editSet(doc, { fields: doc.fields.filter(({ id }) => id !== field.id) });
        }}
      >
        Remove “{field.name}”
      </MenuItem>
    </Menu>
  );
}
