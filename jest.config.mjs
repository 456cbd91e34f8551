export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/packages', '<rootDir>/tools'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  setupFiles: ['<rootDir>/packages/web/src/fixtures/setup.ts'],
  transform: {
    '^.+\\.(t|j)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  // Published as modules only; Jest reads CommonJS.
  transformIgnorePatterns: ['/node_modules/(?!@tanstack/(react-table|table-core|react-store|store)/)'],
  testTimeout: 60_000,
  // A test file runs in a context of its own, where each use of a global is slow: these are handed in instead. Not those
  // that some library declares anew (Map, Symbol, Promise, Buffer), nor what tests put another in place of.
  sandboxInjectedGlobals: [
    'Math',
    'Number',
    'Array',
    'Object',
    'String',
    'JSON',
    'Uint8Array',
    'BigInt',
    'Set',
    'WeakMap',
    'Error',
    'Reflect',
    'Float64Array',
    'Uint8ClampedArray',
  ],
  testSequencer: '<rootDir>/tools/unitOrder.mjs',
  maxWorkers: 3,
}
