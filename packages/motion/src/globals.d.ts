/** What browsers and Node both have and the language does not: text to bytes and back, base64, and WebAssembly. */
declare function atob(text: string): string;
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean });
  decode(bytes?: Uint8Array, options?: { stream?: boolean }): string;
}
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare namespace WebAssembly {
  class Module {
    constructor(code: Uint8Array);
  }
  class Memory {
    readonly buffer: ArrayBuffer;
  }
  class Instance {
    constructor(module: Module);
    readonly exports: Readonly<Record<string, Memory | ((...numbers: number[]) => void)>>;
  }
}
