// Compiles AssemblyScript of the core, of the painter and of media to WebAssembly and writes it as modules of bytes, so that pages, workers, the server
// and the command line all load it alike, without asking for a file. The beat network's weights go the same way.
import { existsSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const core = resolve(import.meta.dirname, '../packages/core');
const media = resolve(import.meta.dirname, '../packages/media');
const painter = resolve(import.meta.dirname, '../packages/painter');
const OPTIONS = ['--optimizeLevel', '3', '--enable', 'simd', '--runtime', 'stub', '--initialMemory', '16', '--noAssert', '--use', 'abort='];

function stale(target, source) {
  return !existsSync(target) || statSync(target).mtimeMs < Math.max(statSync(source).mtimeMs, statSync(import.meta.filename).mtimeMs);
}

for (const [home, folder, name, constant] of [
  [core, 'music', 'spectrum', 'SPECTRUM_WASM'],
  [core, 'music', 'network', 'NETWORK_WASM'],
  [core, 'music', 'tracking', 'TRACKING_WASM'],
  [core, 'music', 'half-rate', 'HALF_RATE_WASM'],
  [core, 'footage', 'block-motion', 'BLOCK_MOTION_WASM'],
  [media, 'film', 'pictures', 'PICTURES_WASM'],
  [painter, '.', 'pixels', 'PIXELS_WASM'],
]) {
  const source = join(home, `assembly/${name}.ts`);
  const target = join(home, `src/${folder}/${name}.wasm.ts`);
  if (!stale(target, source)) continue;
  const asc = await import('assemblyscript/asc');
  const out = join(mkdtempSync(join(tmpdir(), 'bluster-kernel-')), `${name}.wasm`);
  const { error, stderr } = await asc.main([source, '--outFile', out, '--baseDir', '/', ...OPTIONS]);
  if (error) {
    // oxlint-disable-next-line typescript/no-base-to-string -- the compiler's stream has a toString of its own
    process.stderr.write(stderr.toString());
    process.stderr.write(`${error.message}\n`);
    process.exit(1);
  }
  const bytes = [...readFileSync(out)].join(',');
  writeFileSync(
    target,
    `/** Compiled from assembly/${name}.ts; not to be edited. */\nexport const ${constant} = new Uint8Array([${bytes}]);\n`,
  );
}

const weights = join(core, 'assembly/beat-network.weights');
const target = join(core, 'src/music/beat-network.weights.ts');
if (stale(target, weights)) {
  const bytes = readFileSync(weights);
  const [head, values] = [
    new Int32Array(bytes.buffer, bytes.byteOffset, 4),
    new Float32Array(bytes.buffer, bytes.byteOffset + 16, (bytes.length - 16) / 4),
  ];
  // Nine digits tell every 32 bit float from every other.
  const numbers = [...values].map((v) => Number(v.toPrecision(9))).join(',');
  writeFileSync(
    target,
    `/** Written from assembly/beat-network.weights; not to be edited. Width, channels, taps and blocks; then layer after layer. */
export const BEAT_NETWORK: readonly number[] = [${[...head].join(',')}];
export const BEAT_WEIGHTS = new Float32Array([${numbers}]);
`,
  );
}
