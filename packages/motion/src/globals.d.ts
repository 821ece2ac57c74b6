/** What browsers and Node both have and the language does not: text to bytes and back, and base64. */
declare function atob(text: string): string;
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean });
  decode(bytes?: Uint8Array, options?: { stream?: boolean }): string;
}
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
