/** The validator ships no types; this is the part that is used. */
declare module 'gltf-validator' {
  export function validateBytes(
    bytes: Uint8Array,
    options?: { readonly maxIssues?: number },
  ): Promise<{
    issues: { numErrors: number; numWarnings: number; messages: { severity: number; code: string; message: string; pointer?: string }[] };
    info: { animationCount: number };
  }>;
}
