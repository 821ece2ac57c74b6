/* What browsers have and jsdom has not, for tests of components; read before the components are. */
const util = require('node:util');
if (typeof window !== 'undefined') {
  globalThis.TextEncoder ??= util.TextEncoder;
  globalThis.TextDecoder ??= util.TextDecoder;
  window.PointerEvent ??= class extends window.MouseEvent {
    constructor(type, about = {}) {
      super(type, about);
      for (const name of ['pointerId', 'pointerType', 'isPrimary']) Object.defineProperty(this, name, { value: about[name], configurable: true });
    }
  };
  // Libraries ask so whether there are pointer events.
  window.onpointerdown ??= null;
}
