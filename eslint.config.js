import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import regexp from 'eslint-plugin-regexp';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/**
 * Which packages each package may import. Arrows point downward only: contract, backup → core; gateway → contract, core, runtime; visitor → core; server →
 * contract, core, backup, runtime, visitor; cli → contract, core, backup; console, middleware → contract, core; demo → contract, middleware. Core imports no other package of ours and nothing that only Node has.
 */
const MAY_IMPORT = {
  core: [],
  contract: ['core'],
  backup: ['core'],
  runtime: [],
  gateway: ['core', 'contract', 'runtime'],
  middleware: ['core', 'contract'],
  visitor: ['core'],
  server: ['core', 'contract', 'backup', 'runtime', 'visitor'],
  cli: ['core', 'contract', 'backup'],
  console: ['core', 'contract'],
  demo: ['contract', 'middleware'],
};

const importRules = Object.entries(MAY_IMPORT).map(([name, allowed]) => {
  const forbidden = Object.keys(MAY_IMPORT).filter((other) => other !== name && !allowed.includes(other));
  const patterns = [
    {
      group: forbidden.flatMap((other) => [
        `@pragmatica/${other}`,
        `@pragmatica/${other}/*`,
        `**/packages/${other}/**`,
      ]),
      message: `packages/${name} may import only: ${allowed.join(', ') || 'nothing of ours'}. Arrows point downward.`,
    },
  ];
  if (name === 'core' || name === 'console') {
    patterns.push({ group: ['node:*', '@pragmatica/*/node'], message: `packages/${name} runs in browsers.` });
  }
  return {
    files: [`packages/${name}/src/**/*.{ts,tsx}`],
    rules: { 'no-restricted-imports': ['error', { patterns }] },
  };
});

/** What talks to the database. */
const DRIVERS = {
  group: ['@mikro-orm/*', 'pg'],
  message: 'Only packages/server/src/storage talks to the database.',
};
const ofServer = importRules.find(({ files }) => files[0].includes('/server/'));
importRules.push({
  files: ofServer.files,
  ignores: ['packages/server/src/storage/**'],
  rules: {
    'no-restricted-imports': [
      'error',
      { patterns: [...ofServer.rules['no-restricted-imports'][1].patterns, DRIVERS] },
    ],
  },
});

/** What people read stands in a package's catalogue (`src/texts`), where it can be gone through as a whole. */
const IN_CATALOGUE = 'Texts stand in src/texts: put this there, and say() it.';
const WORDS = '/[A-Za-z]{2,}[^A-Za-z]* [A-Za-z“"]/';

const textRules = [
  {
    files: ['packages/console/src/**/*.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        { selector: 'JSXText[value=/[A-Za-z]{2,}/]', message: IN_CATALOGUE },
        {
          selector:
            'JSXAttribute[name.name=/^(title|label|aria-label|placeholder|hint|alt|leave|description)$/] > Literal[value=/[A-Za-z]{2,}/]',
          message: IN_CATALOGUE,
        },
        {
          selector: `JSXExpressionContainer > TemplateLiteral TemplateElement[value.raw=${WORDS}]`,
          message: IN_CATALOGUE,
        },
      ],
    },
  },
  {
    // A check has its words beside its rule; the titles of problems stand with their status.
    files: ['packages/core/src/**/*.ts', 'packages/server/src/**/*.ts'],
    ignores: ['**/src/texts/**', 'packages/core/src/checks/**', 'packages/server/src/http/problems.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: `Property[key.name=/^(message|title|detail|because|why)$/] :matches(Literal[value=${WORDS}], TemplateElement[value.raw=${WORDS}])`,
          message: IN_CATALOGUE,
        },
      ],
    },
  },
  {
    files: ['packages/cli/src/**/*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: `:matches(NewExpression[callee.name='CliError'], CallExpression[callee.name=/^(print|note|title)$/], CallExpression[callee.property.name='description']) :matches(Literal[value=${WORDS}], TemplateElement[value.raw=${WORDS}])`,
          message: IN_CATALOGUE,
        },
      ],
    },
  },
];

/**
 * Of each file the one project that it belongs to. Named together, all projects would be read until one of them holds
 * the file.
 */
const projectRules = [
  ...Object.keys(MAY_IMPORT).map((name) => [
    [`packages/${name}/src/**/*.{ts,tsx}`],
    `packages/${name}/tsconfig.json`,
  ]),
  [['test/**/*.ts', 'bench/**/*.ts'], 'tsconfig.test.json'],
].map(([files, project]) => ({ files, languageOptions: { parserOptions: { project } } }));

export default tseslint.config(
  {
    ignores: [
      '**/dist/',
      '**/node_modules/',
      '.data/',
      '.cache/',
      'packages/demo/pages/',
      'packages/core/assembly/',
    ],
  },
  js.configs.recommended,
  {
    files: ['packages/*/src/**/*.{ts,tsx}', 'test/**/*.ts', 'bench/**/*.ts'],
    extends: [tseslint.configs.strictTypeChecked],
    rules: {
      // An index that was just checked, or a map that was just filled: the alternative is a branch that cannot run.
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      // `anchor` of our own placements is taken for the old method of strings.
      '@typescript-eslint/no-deprecated': 'off',
      // Every handler is async, so that what it throws becomes a rejection.
      '@typescript-eslint/require-await': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      // What a pattern without parameters is filled with.
      '@typescript-eslint/no-generated-empty-object-type': 'off',
      // A property is taken out of an object by naming it beside the rest.
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
    },
  },
  {
    // Whatever is matched was written by a stranger, sooner or later: in linear time, or not at all.
    files: ['packages/*/src/**/*.{ts,tsx}', 'test/**/*.ts', 'bench/**/*.ts', 'scripts/**/*.mjs'],
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential' }],
    },
  },
  {
    files: ['packages/core/src/insert/**/*.ts', 'test/support/open-elements.ts'],
    rules: {
      // The page machine keeps everything in 32-bit numbers; its enums only name them.
      '@typescript-eslint/no-unsafe-enum-comparison': 'off',
    },
  },
  {
    files: ['test/**/*.ts'],
    rules: {
      // Chai's assertions are expressions.
      '@typescript-eslint/no-unused-expressions': 'off',
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['**/packages/server/src/**'],
              message:
                'Import it from dist: a second instance of the service would answer for the language of the moment.',
            },
          ],
        },
      ],
    },
  },
  ...projectRules,
  ...importRules,
  ...textRules,
  {
    files: ['packages/console/src/**/*.tsx'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['**/*.{js,mjs,cjs}', 'packages/console/vite.config.ts'],
    languageOptions: { globals: globals.node },
  },
);
