'use client';
import { useHotkeys } from 'react-hotkeys-hook';

/** Elements that use some keys themselves; there those keys are theirs. */
const OWNERS = {
  letters: '',
  arrows: '[role=slider], input[type=range], input[type=radio]',
  space: 'input[type=checkbox], input[type=radio], button:focus-visible, a:focus-visible',
} as const;

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
    ignoreEventWhen: (event) => event.target instanceof Element && event.target.closest(owners) !== null,
  });
}
