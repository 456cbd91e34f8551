// Breaks the folders that judge, one small change at a time, and sees whether a test notices. By hand: npm run mutate -- FOLDER
const folders = {
  address: ['packages/core/src/address/**/*.ts'],
  modbus: ['packages/core/src/modbus/*.ts'],
  values: ['packages/core/src/values/*.ts'],
  terms: ['packages/core/src/terms/*.ts'],
  path: ['packages/core/src/path/*.ts'],
  ladder: ['packages/core/src/ladder/*.ts'],
  explain: ['packages/core/src/explain/*.ts'],
  packing: ['packages/core/src/packing/*.ts'],
  serial: ['packages/core/src/serial/*.ts'],
  age: ['packages/core/src/age/*.ts'],
  message: ['packages/core/src/message/*.ts'],
  checks: ['packages/core/src/checks/*.ts'],
  store: ['packages/server/src/store/*.ts'],
  security: ['packages/server/src/security/*.ts'],
  settle: ['packages/core/src/procedure/settle.ts', 'packages/core/src/procedure/wholePlant.ts'],
}
const chosen = process.env.MUTATE ?? ''
const ofServer = chosen === 'store' || chosen === 'security'
const mutate = (chosen ? folders[chosen] : Object.values(folders).flat()) ?? []

export default {
  testRunner: 'jest',
  jest: { configFile: 'jest.mutate.config.mjs', enableFindRelatedTests: false },
  coverageAnalysis: 'perTest',
  mutate: [...mutate, '!packages/*/src/**/*.test.ts', '!packages/*/src/**/index.ts', '!packages/*/src/**/fixtures/**'],
  // Sentences may be worded otherwise; what is judged may not. And `?.` stands where the compiler asks for it though the
  // index is known to be there: without it nothing changes.
  mutator: { excludedMutations: ['StringLiteral', 'OptionalChaining'] },
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 5_000,
  reporters: ['progress-append-only', 'clear-text', 'json'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  jsonReporter: { fileName: `.cache/mutation/${chosen || 'all'}.json` },
  tempDirName: '.cache/stryker',
  ignorePatterns: [
    'dist',
    '.cache',
    '.data',
    'docs',
    'e2e',
    'packages/web',
    ...(ofServer ? [] : ['packages/server', 'packages/bench']),
  ],
  cleanTempDir: 'always',
  thresholds: { high: 90, low: 85, break: 85 },
}
