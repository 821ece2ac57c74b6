import { configure } from '@testing-library/dom';
import * as util from 'node:util';

// What browsers have and jsdom has not, for tests of components; read before the components are.
globalThis.TextEncoder ??= util.TextEncoder;
globalThis.TextDecoder ??= util.TextDecoder as typeof TextDecoder;
window.PointerEvent ??= class extends window.MouseEvent {
  constructor(type: string, about: PointerEventInit = {}) {
    super(type, about);
    for (const name of ['pointerId', 'pointerType', 'isPrimary'] as const)
      Object.defineProperty(this, name, { value: about[name], configurable: true });
  }
} as typeof PointerEvent;
// Libraries ask so whether there are pointer events.
window.onpointerdown ??= null;
// A search that is tried until it finds writes the whole page into each error on the way, which nobody reads. DEBUG_PRINT_LIMIT=7000 in
// the environment has the page told beside what failed.
process.env.DEBUG_PRINT_LIMIT ??= '0';
// A slow machine is no failure.
configure({ asyncUtilTimeout: 180_000 });
