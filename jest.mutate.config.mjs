import base from './jest.config.mjs'

const ofServer = process.env.MUTATE === 'store' || process.env.MUTATE === 'security'
const folder = process.env.MUTATE === 'settle' ? 'procedure' : process.env.MUTATE

// Only what judges is broken, and only the tests beside it look: the rest would take hours.
export default {
  ...base,
  roots: [`<rootDir>/packages/${ofServer ? 'server' : 'core'}/src/${folder ?? ''}`],
  // What the page needs is not there: it is not copied.
  setupFiles: [
    ...(base.setupFiles ?? []).filter((file) => !file.includes('packages/web')),
    '<rootDir>/tools/fewRuns.ts',
  ],
  // A process of another language for each change takes longer than the change is worth.
  testPathIgnorePatterns: [...(base.testPathIgnorePatterns ?? []), 'pythonIpaddress'],
  maxWorkers: 1,
}
