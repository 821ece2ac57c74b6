'use client';
import { useHotkeys } from 'react-hotkeys-hook';
import { cameByKey } from './came-by-key';

/** Elements that use some keys themselves; there those keys are theirs. */
const OWNERS = {
  letters: '',
  arrows: '[role=slider], input[type=range], input[type=radio]',
  space: 'input[type=checkbox], input[type=radio]',
} as const;
/** They own Space when one has come to them by key. */
const PRESSED = 'button, a, [role=tab]';

const TEXT = 'textarea, input:not([type=checkbox]):not([type=radio]):not([type=range]):not([type=file])';
const OPEN = '[role=dialog], [role=menu], [role=listbox], [role=combobox]';

/**
 * A key of the application: works wherever the focus is, except where one types, in an open dialog or menu, and on controls that
 * use the key themselves.
 *
 * @param uses which kind of key it is, for the controls that own such keys
 */
export function useKeys(keys: string, run: (event: KeyboardEvent) => void, uses: keyof typeof OWNERS = 'letters'): void {
  const owners = [TEXT, OPEN, OWNERS[uses]].filter(Boolean).join(', ');
  useHotkeys(keys, run, {
    preventDefault: true,
    enableOnFormTags: true,
    useKey: keys === '?',
    ignoreEventWhen: ({ target }) =>
      target instanceof Element &&
      (target.closest(owners) !== null || (uses === 'space' && cameByKey() && target.closest(PRESSED) !== null)),
  });
}
