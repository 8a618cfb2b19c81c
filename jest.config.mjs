/** Unit tests of the core and the painter, and HTTP tests of the server, straight from the sources. */
const swc = (decorators, files = '\\.tsx?$') => ({
  [files]: [
    '<rootDir>/scripts/jest-transform.mjs',
    {
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', decorators },
        transform: decorators ? { legacyDecorator: true, decoratorMetadata: true } : {},
      },
      module: { type: 'es6' },
    },
  ],
});
const common = {
  testEnvironment: '<rootDir>/scripts/jest-environment.mjs',
  // The same for packages, which are not transformed: see scripts/jest-transform.mjs.
  sandboxInjectedGlobals: ['Math', 'Object', 'Array', 'Map', 'Set', 'Symbol', 'String', 'Number'],
  setupFiles: ['<rootDir>/scripts/property-seed.mjs'],
  extensionsToTreatAsEsm: ['.ts'],
};
/** Our own packages, from their sources; the core from where it is said to be. */
const packages = (core, ending) => ({
  moduleNameMapper: {
    '^@bluster/core$': `<rootDir>/packages/core/${core}/index${ending}`,
    '^@bluster/core/(.*)$': `<rootDir>/packages/core/${core}/$1${ending}`,
    '^@bluster/painter$': '<rootDir>/packages/painter/src/index.ts',
    '^@bluster/wire$': '<rootDir>/packages/wire/src/index.ts',
    '^@bluster/wire/(.*)$': '<rootDir>/packages/wire/src/$1.ts',
    '^@bluster/composer$': '<rootDir>/lab/composer/src/index.ts',
    '^@bluster/media/(.*)$': '<rootDir>/packages/media/src/$1.ts',
  },
});
export default {
  // A busy machine is no fault of a test's.
  testTimeout: 120_000,
  projects: [
    {
      ...common,
      ...packages('src', '.ts'),
      displayName: 'core',
      transform: swc(false),
      testMatch: [
        '<rootDir>/packages/{core,painter}/src/**/*.test.ts',
        '<rootDir>/lab/**/*.test.ts',
        '<rootDir>/apps/web/src/**/*.test.ts',
      ],
    },
    {
      ...common,
      // As one file, as it is shipped: each file of tests loads it anew.
      ...packages('dist/bundle', '.js'),
      displayName: 'server',
      globalSetup: '<rootDir>/scripts/jest-begin.mjs',
      globalTeardown: '<rootDir>/scripts/jest-end.mjs',
      transform: swc(true, '\\.tsx?$|/core/dist/bundle/'),
      testMatch: ['<rootDir>/packages/media/**/*.test.ts', '<rootDir>/apps/{server,cli}/**/*.test.ts'],
    },
  ],
};
