import type { PlayScript, ScriptChange } from '@lantern/motion';

/** Writes down what is asked, step by step. */
export interface Recorder {
  /** Before a step is played, with the inputs that it is played with. */
  note(inputs: ArrayLike<number>): void;
  script(): PlayScript;
}

/** @param start inputs, state and place at which recording begins */
export function recorder(start: Pick<PlayScript, 'state' | 'at' | 'led' | 'inputs'>): Recorder {
  const last = [...start.inputs];
  const changes: ScriptChange[] = [];
  let steps = 0;
  return {
    note(inputs) {
      for (let input = 0; input < last.length; input++) {
        if (inputs[input] === last[input]) continue;
        last[input] = inputs[input];
        changes.push({ step: steps, input, value: inputs[input] });
      }
      steps++;
    },
    script: () => ({ ...start, changes: [...changes], steps }),
  };
}
