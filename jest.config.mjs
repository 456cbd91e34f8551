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
  maxWorkers: 3,
}
