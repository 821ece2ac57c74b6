'use client';
import { fieldSchema } from '@lantern/motion';
import { Button } from '@mui/material';
import { useState } from 'react';
import { EmptyPlace } from '@/controls/EmptyPlace';
import type { SetView } from '@/data/set-view';
import { editSet, type FieldDoc, type SetDoc } from '@/data/sets-store';
import { OpenFieldPage } from './OpenFieldPage';

/** Fields: clips that are blended by inputs, seen as a sea chart. */
export function FieldsPage({ doc, view }: { doc: SetDoc; view: SetView }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const field = doc.fields.find(({ id }) => id === chosen) ?? doc.fields[0] ?? null;
  const add = () => {
    const made = newField(doc, view);
    setChosen(made.id);
  };
  if (!field)
    return (
      <EmptyPlace
        title="No field yet"
        says="A field blends loops by speed and turn, so that one stick plays them all. It begins with the walks and jogs that are there."
      >
        <Button variant="contained" size="large" onClick={add}>
          Make a field
        </Button>
      </EmptyPlace>
    );
  return <OpenFieldPage key={field.id} doc={doc} field={field} view={view} onChoose={setChosen} onAdd={add} />;
}

/** A field of the loops and arcs with steps that the set has. */
function newField(doc: SetDoc, { traits }: SetView): FieldDoc {
  const clips = [...traits]
    .filter(([, own]) => (own.kind === 'loop' || own.kind === 'arc') && own.direction?.startsWith('forward'))
    .map(([id]) => id);
  const isTaken = (name: string) => doc.fields.some((own) => own.name === name);
  let name = 'field';
  for (let n = 2; isTaken(name); n++) name = `field ${n}`;
  const made = { id: crypto.randomUUID(), ...fieldSchema.parse({ name, clips }) };
  editSet(doc, { fields: [...doc.fields, made] });
  return made;
}
