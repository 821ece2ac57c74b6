'use client';
'use no memo';
import { Box, CircularProgress } from '@mui/material';
import type { PlayView } from '@/worker/core.worker';
import { Word } from './TopBar';

/** Switches, and numbers that no helm knows. */
export function OtherInputs({
  view,
  inputs,
  tell,
}: {
  view: PlayView;
  inputs: ArrayLike<number>;
  tell: (name: string, value: number) => void;
}) {
  return view.graph.inputs.map((input, i) =>
    input.kind === 'switch' ? (
      <Word key={input.name} name={`Switch ${input.name}`} pressed={inputs[i] > 0} onClick={() => tell(input.name, 1 - inputs[i])}>
        {inputs[i] > 0 ? '●' : '○'} {input.name}
      </Word>
    ) : null,
  );
}

/** Who else is driven with the same set, beside him or alone. */
export function AlsoDriven({
  characters,
  also,
  onAlso,
  isAlone,
  onAlone,
  isPending,
  error,
}: {
  characters: readonly { readonly id: string; readonly name: string }[];
  also: string | null;
  onAlso: (id: string | null) => void;
  isAlone: boolean;
  onAlone: (isAlone: boolean) => void;
  isPending: boolean;
  error: string | null;
}) {
  return (
    <Box sx={{ display: 'flex', gap: 0.5, ml: -0.8, alignItems: 'center' }}>
      {characters.map(({ id, name }) => (
        <Word
          key={id}
          name={also === id ? `Without ${name}` : `${name} beside him`}
          pressed={also === id}
          onClick={() => onAlso(also === id ? null : id)}
        >
          {also === id ? `without ${name}` : `and ${name}`}
        </Word>
      ))}
      {also !== null && (
        <Word name="Alone" pressed={isAlone} onClick={() => onAlone(!isAlone)}>
          alone
        </Word>
      )}
      {isPending && <CircularProgress size={14} color="inherit" aria-label="Fitting the set" />}
      {error && <span role="alert">▲ {error}</span>}
    </Box>
  );
}
