// The core as one file, which Node loads in a third of the time that its hundreds of modules take, out of what the compiler wrote. It is
// taken by programs that are started with --conditions=bundle; all others take the modules, so that nothing old is run while one works.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { defineConfig } from 'rolldown';

const dist = join(import.meta.dirname, 'dist');
/** @type {{ exports: Record<string, { default: string }> }} */
const { exports } = JSON.parse(readFileSync(join(import.meta.dirname, 'package.json'), 'utf8'));

/** @param {string} folder within dist @returns {string[]} what lies in it and below, without its ending */
const modulesIn = (folder) =>
  readdirSync(join(dist, folder), { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.js'))
    .map((name) => `${folder}/${name.slice(0, -'.js'.length)}`);

/** What is needed to look at a clip, to hear one, and to put the frames of a film together: threads of their own begin with it again and again. */
const THREADS = new RegExp(
  `dist/(${[
    'music/(signal|compiled|half-rate)',
    'formats/wav',
    'footage/(film-look|small-frame|block-motion|picture-changes|hits|clip-summary|transients)',
    'picture/(optics|colour-change)',
    'finish/(faces/faces|looks/look-parts)',
  ].join('|')})(\\.wasm)?\\.js$`,
);

const open = Object.values(exports).flatMap(({ default: path }) => {
  const name = path.slice('./dist/'.length, -'.js'.length);
  return name.endsWith('/*') ? modulesIn(name.slice(0, -'/*'.length)) : [name];
});

export default defineConfig({
  input: Object.fromEntries(open.map((name) => [name, join(dist, `${name}.js`)])),
  platform: 'node',
  output: {
    dir: join(dist, 'bundle'),
    cleanDir: true,
    chunkFileNames: '[name].js',
    // Who only refuses a slip of the pen needs no more than the ground of it.
    codeSplitting: {
      groups: [
        { name: 'ground', test: /dist\/(refusal|time|lists)\// },
        { name: 'threads', test: THREADS },
        { name: 'all', test: /./ },
      ],
    },
  },
});
