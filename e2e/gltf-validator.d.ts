/** The Khronos validator ships no types; this is the part that the tests use. */
declare module 'gltf-validator' {
  export function validateBytes(bytes: Uint8Array): Promise<{
    issues: { numErrors: number; numWarnings: number; messages: { severity: number; code: string; message: string }[] };
    info: { animationCount: number };
  }>;
}
