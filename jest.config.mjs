/** Unit tests of the core and the painter, and HTTP tests of the server, straight from the sources. */
const swc = (decorators) => ({
  '\\.tsx?$': [
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
  testEnvironment: 'node',
  // The same for packages, which are not transformed: see scripts/jest-transform.mjs.
  sandboxInjectedGlobals: ['Math', 'Object', 'Array', 'Map', 'Set', 'Symbol', 'String', 'Number'],
  setupFiles: ['<rootDir>/scripts/property-seed.mjs'],
  extensionsToTreatAsEsm: ['.ts'],
  moduleNameMapper: {
    '^@bluster/core$': '<rootDir>/packages/core/src/index.ts',
    '^@bluster/core/(.*)$': '<rootDir>/packages/core/src/$1.ts',
    '^@bluster/painter$': '<rootDir>/packages/painter/src/index.ts',
    '^@bluster/wire$': '<rootDir>/packages/wire/src/index.ts',
    '^@bluster/wire/(.*)$': '<rootDir>/packages/wire/src/$1.ts',
    '^@bluster/composer$': '<rootDir>/lab/composer/src/index.ts',
    '^@bluster/media/(.*)$': '<rootDir>/packages/media/src/$1.ts',
  },
};
export default {
  // A busy machine is no fault of a test's.
  testTimeout: 120_000,
  projects: [
    {
      ...common,
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
      displayName: 'server',
      globalSetup: '<rootDir>/scripts/jest-starter.mjs',
      globalTeardown: '<rootDir>/scripts/jest-starter-end.mjs',
      transform: swc(true),
      testMatch: ['<rootDir>/packages/media/**/*.test.ts', '<rootDir>/apps/{server,cli}/**/*.test.ts'],
    },
  ],
};
