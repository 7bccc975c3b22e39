// Three kinds of Jest tests; bin/test.mjs runs them and adds up what they say.
const swc = [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx: true, decorators: true },
      transform: {
        legacyDecorator: true,
        decoratorMetadata: true,
        useDefineForClassFields: false,
        react: { runtime: 'automatic' },
      },
      target: 'es2022',
    },
    module: { type: 'commonjs' },
  },
];
const ESM_PACKAGES = [
  '@noble',
  'canonicalize',
  'uuid',
  '@nestjs',
  'file-type',
  'strtok3',
  'token-types',
  'uint8array-extras',
  '@tokenizer',
  '@borewit',
  'iterare',
  'helmet',
  'idb',
];
const common = {
  // Tests run in a context of their own, in which a name of the language is looked up anew each time: these are asked for in every loop.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Object',
    'Array',
    'Map',
    'Set',
    'WeakMap',
    'Float64Array',
    'Infinity',
  ],
  transform: { '^.+\\.(m?js|tsx?)$': swc },
  transformIgnorePatterns: [`/node_modules/(?!(${ESM_PACKAGES.join('|')})/)`],
  moduleNameMapper: {
    // Exported to import alone; the transform reads it all the same.
    '^canonicalize$': '<rootDir>/node_modules/canonicalize/lib/canonicalize.js',
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
  testEnvironmentOptions: { customExportConditions: ['@firm-needle/source', 'node', 'require', 'default'] },
};

export default {
  // Long enough for a machine that is busy: what hangs is found all the same, and speed is the bench's business.
  testTimeout: 30_000,
  projects: [
    {
      ...common,
      displayName: 'core',
      testMatch: ['<rootDir>/packages/*/src/**/*.test.ts'],
      testEnvironment: 'node',
    },
    {
      ...common,
      displayName: 'web',
      moduleNameMapper: { ...common.moduleNameMapper, '\\.css$': '<rootDir>/apps/web/jest.style.cjs' },
      setupFiles: ['<rootDir>/apps/web/jest.setup.mjs'],
      testMatch: ['<rootDir>/apps/web/src/**/*.test.ts?(x)'],
      testEnvironment: 'jsdom',
      testEnvironmentOptions: {
        customExportConditions: ['@firm-needle/source', 'browser', 'require', 'default'],
      },
    },
    {
      ...common,
      displayName: 'reference',
      testMatch: ['<rootDir>/reference/**/*.test.ts'],
      testEnvironment: 'node',
    },
    {
      ...common,
      displayName: 'api',
      testMatch: ['<rootDir>/apps/server/test/**/*.test.ts'],
      testEnvironment: 'node',
    },
  ],
};
