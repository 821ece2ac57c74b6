/** The validator is loaded with the first file. */
const validator = () => import('gltf-validator');

/** From this severity on messages are hints. */
const HINT = 2;

/**
 * The errors and warnings that the open validator of the format has for a file, a line each; none for a file that is as it should be.
 *
 * @example
 * (await validateGlb(glb)).length; // 0
 */
export async function validateGlb(bytes: Uint8Array): Promise<string[]> {
  const { validateBytes } = await validator();
  const { issues } = await validateBytes(bytes, { maxIssues: 40 });
  return issues.messages
    .filter(({ severity }) => severity < HINT)
    .map(({ code, message, pointer = '' }) => `${code} ${pointer}: ${message}`);
}
