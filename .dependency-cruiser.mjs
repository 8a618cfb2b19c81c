// The arrows of the house, for dependency-cruiser: what may import what, and that nothing goes round in a ring.

/** Folders of the core, from the ground up: each may import those before it. A kind's folder lies under what uses its list. */
const CORE = [
  'refusal',
  'time',
  'lists',
  'music',
  'marks/kinds',
  'pegs/rules',
  'finish/motion',
  'finish/entrances',
  'finish/faces',
  'finish/looks',
  'finish/moves',
  'finish/effects',
  'finish/transitions',
  'document',
  'geometry',
  'song',
  'marks',
  'footage',
  'score',
  'pegs',
  'shots',
  'fill/orders',
  'fill',
  'settle',
  'finish',
  'carry',
  'templates',
  'first-cut',
  'picture',
  'sound',
  'report',
  'formats',
  'films',
  'commands',
];
/** Folders of the pages, in the same way; the five views stand side by side and know nothing of each other. */
const WEB = [
  'workers',
  'interface',
  'api',
  'document',
  'playback',
  'workbench',
  'tiles',
  'screen',
  'clips',
  'lines',
  'marking',
  'arrivals',
];
const VIEWS = ['song', 'footage', 'score', 'finish', 'export'];
const WEB_ABOVE = ['loupe', 'shell', 'home'];
const SCORE = ['planning', 'fill', 'pegs', 'shot', 'cut', 'settle', 'report', 'first-cut'];
/** Folders of the media package, and of the server. */
const MEDIA = ['program', 'probe', 'sound', 'photo', 'clip', 'film'];
const SERVER = [
  'database',
  'http',
  'changes',
  'projects',
  'jobs',
  'montages',
  'assets',
  'exports',
  'home',
  'bundles',
  'templates',
  'following',
];

/** Tests and what they are made with may look at everything of their own package. */
const NO_TEST = '[.]test[.]tsx?$|/testing/';

/** The folder of a list that a path lies in is the longest that fits: others of the list are cut out of it. */
function pathOf(root, folder, all) {
  const inside = all.filter((other) => other.startsWith(`${folder}/`)).map((other) => other.slice(folder.length + 1));
  return `^${root}/${folder}/${inside.length > 0 ? `(?!${inside.join('|')})` : ''}`;
}

/** One rule a folder: it imports nothing that stands above it. */
function ladder(name, root, folders, beside = []) {
  return folders
    .map((folder, i) => ({
      name: `${name}-${folder.replaceAll('/', '-')}`,
      severity: 'error',
      comment: `${folder} stands below what it imports`,
      from: { path: pathOf(root, folder, folders), pathNot: NO_TEST },
      to: { path: [...folders.slice(i + 1), ...beside].map((above) => pathOf(root, above, folders)) },
    }))
    .filter((rule) => rule.to.path.length > 0);
}

/** Packages: what each may import of ours. */
const PACKAGES = {
  'packages/core': [],
  'packages/wire': ['packages/core'],
  'packages/painter': ['packages/core'],
  'packages/media': ['packages/core', 'packages/painter'],
  'apps/server': ['packages/core', 'packages/wire', 'packages/media'],
  'apps/cli': ['packages/core', 'packages/media'],
  'apps/web': ['packages/core', 'packages/wire', 'packages/painter'],
  'lab/composer': ['packages/core'],
  'lab/demo': ['packages/core', 'packages/media', 'lab/composer'],
};

export default {
  forbidden: [
    { name: 'no-ring', severity: 'error', comment: 'nothing imports itself by a detour, types included', from: {}, to: { circular: true } },
    ...Object.entries(PACKAGES).map(([own, others]) => ({
      name: `package-${own.replace('/', '-')}`,
      severity: 'error',
      from: { path: `^${own}/` },
      to: { path: '^(packages|apps|lab)/', pathNot: [own, ...others].map((path) => `^${path}/`) },
    })),
    {
      name: 'anywhere',
      severity: 'error',
      comment: 'the core and the painter run in a page, a worker and on the server: no Node and no interface in them',
      from: { path: '^packages/(core|painter)/src/', pathNot: NO_TEST },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev', 'npm-peer', 'npm-no-pkg', 'npm-unknown'] },
    },
    {
      name: 'over-http',
      severity: 'error',
      comment: 'pages talk to the server over HTTP, and know nothing of Node',
      from: { path: '^apps/web/src/', pathNot: NO_TEST },
      to: { dependencyTypes: ['core'] },
    },
    ...ladder('core', 'packages/core/src', CORE),
    ...ladder('web', 'apps/web/src', [...WEB, 'views', ...WEB_ABOVE], VIEWS).filter(({ name }) => !/views|loupe|shell|home/.test(name)),
    ...ladder('web', 'apps/web/src', WEB_ABOVE),
    ...VIEWS.map((view) => ({
      name: `web-view-${view}`,
      severity: 'error',
      from: { path: `^apps/web/src/${view}/`, pathNot: NO_TEST },
      to: { path: [...VIEWS.filter((other) => other !== view), ...WEB_ABOVE].map((other) => `^apps/web/src/${other}/`) },
    })),
    ...ladder('web-score', 'apps/web/src/score', SCORE),
    ...ladder('media', 'packages/media/src', MEDIA),
    ...ladder('server', 'apps/server/src', SERVER),
    {
      name: 'nobody-alone',
      severity: 'error',
      comment: 'nothing imports this file',
      from: { orphan: true, pathNot: ['^e2e/', '[.]d[.]ts$', '[.]config[.]', '[.]worker[.]ts$', '/dist/'] },
      to: {},
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: ['/dist/', '^packages/(core|media|painter)/assembly/', 'node_modules', '[.]wasm[.]ts$', '[.]weights[.]ts$'] },
    tsPreCompilationDeps: true,
    combinedDependencies: true,
    enhancedResolveOptions: {
      conditionNames: ['source', 'import', 'require', 'node', 'default'],
      exportsFields: ['exports'],
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.d.ts'],
    },
    tsConfig: { fileName: 'tsconfig.base.json' },
    reporterOptions: { text: { highlightFocused: true } },
  },
};
