import { readFile } from 'node:fs/promises';
import asc from 'assemblyscript/asc';

const FOLDER = 'packages/motion/simd';

/** The module of the core that holds `pose-block`, compiled: WebAssembly as base64. */
export async function poseBlockCode(): Promise<string> {
  let code: Uint8Array | null = null;
  const { error, stderr } = await asc.main(
    ['pose-block.ts', '-O3', '--enable', 'simd', '--runtime', 'stub', '--noAssert', '--initialMemory', '6', '--outFile', 'code.wasm'],
    {
      readFile: (name) => readFile(`${FOLDER}/${name}`, 'utf8').catch(() => null),
      writeFile: (_, contents) => {
        if (typeof contents !== 'string') code = contents;
      },
      listFiles: () => [],
    },
  );
  if (error || !code) throw new Error(`pose-block was not compiled: ${stderr.toString()}`);
  return `/** What \`simd/pose-block.ts\` compiles to, base64: written by \`npm run simd\`. */\nexport const POSE_BLOCK =\n  '${Buffer.from(code).toString('base64')}';\n`;
}
