/** Unit tests beside the code, checks against the world outside in verification/. */
module.exports = {
  testEnvironment: 'node',
  roots: ['<rootDir>/src', '<rootDir>/verification'],
  // a test waits for what it asserts; this only ends one that hangs
  testTimeout: 600_000,
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  transform: {
    '(\\.(ts|tsx|mjs)|/(@scure|hyparquet|hyparquet-writer)/.+\\.js)$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  // what comes as modules alone
  transformIgnorePatterns: ['/node_modules/(?!(d3-[a-z-]+|internmap|@scure|hyparquet|hyparquet-writer)/)'],
  // a test runs in a context of its own, where each look at a global is slow: the sums take ten times as long without these
  // (not Set: a package declares one of its own)
  sandboxInjectedGlobals: ['Math', 'Number', 'Infinity', 'Object', 'Array', 'Map', 'Float64Array', 'String'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
}
