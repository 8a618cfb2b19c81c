// Compiles the core's AssemblyScript to WebAssembly and writes it as a module of bytes, so that pages, workers, the server
// and the command line all load it alike, without asking for a file.
import { existsSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const core = resolve(import.meta.dirname, '../packages/core');
const source = join(core, 'assembly/spectrum.ts');
const target = join(core, 'src/music/spectrum.wasm.ts');

if (!existsSync(target) || statSync(target).mtimeMs < Math.max(statSync(source).mtimeMs, statSync(import.meta.filename).mtimeMs)) {
  const asc = await import('assemblyscript/asc');
  const out = join(mkdtempSync(join(tmpdir(), 'bluster-kernel-')), 'spectrum.wasm');
  const options = [
    '--optimizeLevel',
    '3',
    '--enable',
    'simd',
    '--runtime',
    'stub',
    '--initialMemory',
    '16',
    '--noAssert',
    '--use',
    'abort=',
  ];
  const { error, stderr } = await asc.main([source, '--outFile', out, '--baseDir', '/', ...options]);
  if (error) {
    process.stderr.write(`${stderr.toString()}${error.message}\n`);
    process.exit(1);
  }
  const bytes = [...readFileSync(out)].join(',');
  writeFileSync(
    target,
    `/** Compiled from assembly/spectrum.ts; not to be edited. */\nexport const SPECTRUM_WASM = new Uint8Array([${bytes}]);\n`,
  );
}
