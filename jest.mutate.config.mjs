import base from './jest.config.mjs'

const folder = process.env.MUTATE === 'settle' ? 'procedure' : process.env.MUTATE

// Only what judges is broken, and only the tests beside it look: the rest would take hours.
export default {
  ...base,
  roots: [`<rootDir>/packages/core/src/${folder ?? ''}`],
  setupFiles: [...(base.setupFiles ?? []), '<rootDir>/tools/fewRuns.ts'],
  // A process of another language for each change takes longer than the change is worth.
  testPathIgnorePatterns: [...(base.testPathIgnorePatterns ?? []), 'pythonIpaddress'],
  maxWorkers: 1,
}
