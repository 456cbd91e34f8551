export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/packages', '<rootDir>/tools'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
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
  testTimeout: 20_000,
  maxWorkers: 2,
}
