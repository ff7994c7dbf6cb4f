import asc from 'assemblyscript/asc';
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { format, resolveConfig } from 'prettier';

/** `npm run assemble`: compiles the kernels in AssemblyScript into the module that is kept with the sources. */

const root = fileURLToPath(new URL('..', import.meta.url));
export const ASSEMBLED = fileURLToPath(new URL('../core/kernels/assembled.ts', import.meta.url));

/** The text of the module that holds the compiled kernels. */
export async function assembled() {
  let binary;
  const { error, stderr } = await asc.main(
    [
      'core/kernels/assembly/index.ts',
      '--outFile=kernels.wasm',
      '--optimizeLevel=3',
      '--noAssert',
      '--runtime=stub',
      '--enable=simd,nontrapping-f2i',
      '--importMemory',
      '--memoryBase=1024',
    ],
    {
      readFile: (name, base) => {
        try {
          return readFileSync(`${base ? base + '/' : root}${name}`, 'utf8');
        } catch {
          return null;
        }
      },
      writeFile: (_, contents) => {
        binary = contents;
      },
    },
  );
  if (error) throw new Error(stderr.toString());
  const text = `/** Written by \`npm run assemble\` from \`core/kernels/assembly\`: WebAssembly, as base64. */
export const assembled = '${Buffer.from(binary).toString('base64')}';`;
  return format(text, { ...(await resolveConfig(ASSEMBLED)), parser: 'typescript' });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(ASSEMBLED, await assembled());
