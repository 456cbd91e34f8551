import js from '@eslint/js'
import a11y from 'eslint-plugin-jsx-a11y'
import hooks from 'eslint-plugin-react-hooks'
import globals from 'globals'
import ts from 'typescript-eslint'

// Which of our packages each package may import. Nothing imports from web or server.
const mayImport = {
  core: [],
  contract: ['core'],
  bench: ['core', 'contract'],
  server: ['core', 'contract', 'bench'],
  web: ['core', 'contract'],
}
const ours = Object.keys(mayImport)

/** The dependency rule as lint settings: one block for each package. */
const boundaries = ours.map((name) => ({
  files: [`packages/${name}/src/**/*.{ts,tsx}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: ours
              .filter((other) => !mayImport[name].includes(other))
              .flatMap((other) => [`@calm/${other}`, `@calm/${other}/*`]),
            message: `packages/${name} may import only: ${mayImport[name].join(', ') || 'nothing of ours'}.`,
          },
          { group: ['@calm/*/*/*'], message: 'Import a subject by its folder; no deep imports across folders.' },
          {
            regex: '^(\\.\\./)+[^./][^/]*/[^/]',
            message: 'Reach another folder by its index, not by a file inside it.',
          },
          ...(name === 'core' || name === 'contract'
            ? [
                {
                  group: ['node:*', 'react', 'react-dom', 'express', 'typeorm'],
                  message: 'The computation does no input or output.',
                },
              ]
            : []),
        ],
      },
    ],
    ...(name === 'core'
      ? {
          'no-restricted-globals': [
            'error',
            'window',
            'document',
            'fetch',
            'process',
            'setTimeout',
            'setInterval',
            'Buffer',
          ],
          'no-restricted-properties': [
            'error',
            { object: 'Date', property: 'now', message: 'Time is passed in.' },
            { object: 'Math', property: 'random', message: 'Randomness is passed in.' },
          ],
        }
      : {}),
  },
}))

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.cache/**', 'e2e/results/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  { languageOptions: { globals: { ...globals.node } } },
  {
    files: ['packages/web/**/*.{ts,tsx}'],
    languageOptions: { globals: { ...globals.browser } },
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  { files: ['packages/web/**/*.tsx'], ...a11y.flatConfigs.recommended },
  {
    files: ['packages/web/**/*.tsx'],
    // A field that a person has just asked for takes the focus; the rule still holds for bare elements.
    rules: {
      'jsx-a11y/no-autofocus': ['error', { ignoreNonDOM: true }],
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXOpeningElement[name.name=/^[a-z]/] > JSXAttribute[name.name="title"]',
          message: 'What is told of an element goes through tip(): a title reaches neither keys nor touch.',
        },
      ],
    },
  },
  ...boundaries,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    // Tests stand beside what they test and may set several packages side by side.
    files: ['**/*.test.ts', '**/*.test.tsx', '**/fixtures/*.ts', 'e2e/**/*.ts'],
    rules: { 'no-restricted-imports': 'off', 'no-restricted-globals': 'off' },
  },
)
