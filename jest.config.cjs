const swc = (tsx) => [
  '@swc/jest',
  {
    jsc: {
      target: 'es2022',
      parser: { syntax: 'typescript', decorators: true, tsx },
      transform: {
        legacyDecorator: true,
        decoratorMetadata: true,
        react: { runtime: 'automatic' },
        useDefineForClassFields: false,
      },
    },
    module: { type: 'commonjs' },
  },
];
const shared = {
  moduleNameMapper: {
    '^@arkiv/core$': '<rootDir>/packages/core/src/index.ts',
    '^@arkiv/sending$': '<rootDir>/packages/sending/src/index.ts',
    '^fast-check$': '<rootDir>/tools/properties.cjs',
  },
  rootDir: __dirname,
};

const server = {
  ...shared,
  testEnvironment: '<rootDir>/tools/jestEnvironment.cjs',
  transform: { '\\.ts$': swc(false) },
  setupFiles: ['reflect-metadata'],
  globalSetup: '<rootDir>/apps/server/test/globalSetup.cjs',
  globalTeardown: '<rootDir>/apps/server/test/globalTeardown.cjs',
};

/** @type {import('jest').Config} */
module.exports = {
  projects: [
    {
      ...shared,
      displayName: 'core',
      testEnvironment: '<rootDir>/tools/jestEnvironment.cjs',
      testMatch: ['<rootDir>/packages/core/src/**/*.test.ts'],
      transform: { '\\.ts$': swc(false) },
    },
    {
      ...server,
      displayName: 'server',
      testMatch: ['<rootDir>/apps/server/{src,test}/**/*.test.ts'],
      testPathIgnorePatterns: ['/node_modules/', '/test/together/'],
    },
    // The same files in groups, as `npm test` runs them (tools/together.mjs writes these).
    ...(process.env.ARKIV_TOGETHER
      ? [
          {
            ...server,
            displayName: 'together',
            testMatch: ['<rootDir>/apps/server/test/together/*.test.ts'],
          },
        ]
      : []),
    {
      ...shared,
      displayName: 'web',
      // What a style sheet looks like is seen in the browser tests.
      moduleNameMapper: { ...shared.moduleNameMapper, '\\.module\\.css$': '<rootDir>/apps/web/styles.cjs' },
      testEnvironment: 'jsdom',
      setupFiles: ['<rootDir>/apps/web/jsdom.cjs'],
      testMatch: ['<rootDir>/{apps/web,apps/gallery,packages/sending}/src/**/*.test.{ts,tsx}'],
      transform: { '\\.tsx?$': swc(true), '\\.js$': swc(false) },
      transformIgnorePatterns: ['/node_modules/(?!(ulid|marked|@tanstack)/)'],
    },
  ],
  // Real files, real checksums and real pictures take their time on two cores: half a minute here, and a machine that is busy otherwise
  // was seen to take three times as long. It only bounds what hangs.
  testTimeout: 240000,
  maxWorkers: 2,
  // What a test file leaves behind in its process adds up to gigabytes: a new one begins with a clean heap.
  workerIdleMemoryLimit: '1GB',
};
