// Two projects: `unit` needs nothing but the sources; `system` drives the built server as a process of its own (scripts/test.mjs builds first).
const shared = {
  testEnvironment: '<rootDir>/jest.environment.mjs',
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } } },
        module: { type: 'es6' },
      },
    ],
  },
  modulePathIgnorePatterns: ['<rootDir>/build', '<rootDir>/.data'],
};

export default {
  // Room for a machine that is slow and shared: the limit catches what hangs, not what is slow.
  testTimeout: 300_000,
  // A test file leaves some of its memory behind, databases most of all; a worker full of it is twice as slow.
  workerIdleMemoryLimit: '700MB',
  projects: [
    {
      ...shared,
      displayName: 'unit',
      moduleNameMapper: { '\\.css$': '<rootDir>/app/ui/noStyles.testing.ts' },
      testMatch: ['<rootDir>/{core,content,server,app,cli}/**/*.test.{ts,tsx}'],
      testPathIgnorePatterns: ['/node_modules/', '\\.system\\.test\\.ts$'],
    },
    { ...shared, displayName: 'system', testMatch: ['<rootDir>/{server,cli}/**/*.system.test.ts'] },
  ],
};
