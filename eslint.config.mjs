import js from '@eslint/js';
import ts from 'typescript-eslint';
import { importX } from 'eslint-plugin-import-x';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';

/** The order in which data flows through the core; a folder imports only from those before it. */
const flow = [
  'memory',
  'math',
  'skeleton',
  'clip',
  'steps',
  'loops',
  'travel',
  'facts',
  'scene',
  'timeline',
  'seam',
  'layers',
  'plan',
  'evaluate',
  'staging',
  'footlock',
  'compile',
  'cameras',
  'sound',
  'edit',
  'posing',
  'bake',
  'continuity',
  'choice',
];
const coreZones = flow.slice(0, -1).map((folder, i) => ({
  target: `./core/src/${folder}`,
  from: flow.slice(i + 1).map((later) => `./core/src/${later}`),
  message: 'Data flows one way through the core: a folder imports only from those before it.',
}));

/** The layers of the application; a folder imports only from those before it. */
const layers = ['ui', 'workers', 'data', 'store', 'parts', 'features'];
const features = ['workbench', 'library', 'bake', 'continuity', 'scenes', 'help'];
const webZones = [
  ...layers.slice(0, -1).map((folder, i) => ({
    target: `./web/src/${folder}`,
    from: [
      ...layers.slice(i + 1).map((later) => `./web/src/${later}`),
      // What is shown is no business of what is kept.
      ...(['workers', 'data', 'store'].includes(folder) ? ['./web/src/ui'] : []),
    ],
    message: 'Layers of the application import only from those before them; see docs/architecture.md.',
  })),
  ...features.map((feature) => ({
    target: `./web/src/features/${feature}`,
    from: features.filter((f) => f !== feature).map((f) => `./web/src/features/${f}`),
    message: 'Features do not import each other: what they share is in parts.',
  })),
];

/** What each workspace may import from the others. */
const allowed = {
  core: [],
  formats: ['core'],
  demo: ['core', 'formats'],
  cli: ['core', 'formats'],
  server: ['core', 'formats'],
  web: ['core', 'formats'],
};
const packages = ['core', 'formats', 'server', 'cli', 'demo', 'web', 'e2e', 'bench'];

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'demo/made/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { 'import-x': importX, 'react-hooks': hooks },
    settings: { 'import-x/resolver-next': [createTypeScriptImportResolver({ project: 'tsconfig.json' })] },
    languageOptions: { globals: { ...globals.node } },
    rules: {
      'import-x/no-cycle': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-unnecessary-type-assertion': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
      '@typescript-eslint/only-throw-error': 'error',
    },
  },
  {
    files: ['**/src/**/*.{ts,tsx}'],
    // Tests put methods of the platform aside to let them fail.
    ignores: ['**/*.test.ts'],
    rules: { '@typescript-eslint/unbound-method': 'error' },
  },
  {
    files: ['core/src/**/*.ts'],
    // Tests look at what a folder's work leads to.
    ignores: ['**/*.test.ts', 'core/src/testing/**'],
    rules: {
      'import-x/no-restricted-paths': ['error', { basePath: import.meta.dirname, zones: coreZones }],
    },
  },
  ...Object.entries(allowed).map(([name, may]) => ({
    files: [`${name}/src/**/*.{ts,tsx}`],
    ignores: ['**/*.test.ts', '**/*.test.tsx'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: packages.filter((p) => p !== name && !may.includes(p)).map((p) => `@warper/${p}`),
              message: 'core <- formats <- {web, server, cli, demo}; nothing points the other way.',
            },
          ],
        },
      ],
    },
  })),
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'self', 'process', 'Buffer', 'navigator'],
    },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    ignores: ['**/*.test.ts'],
    rules: {
      'import-x/no-restricted-paths': ['error', { basePath: import.meta.dirname, zones: webZones }],
    },
  },
  {
    // Kernels go through typed arrays by computed places, as tests do through what they made; everything else says what is there.
    files: [
      'core/src/{edit,scene,timeline}/**/*.ts',
      'formats/src/{cues,scenefile}/**/*.ts',
      '{web,cli,server}/src/**/*.{ts,tsx}',
    ],
    ignores: [
      '**/*.test.ts',
      'web/src/main.tsx',
      'web/src/parts/stage/**',
      'web/src/features/workbench/{timeline,curves}/drawing/**',
    ],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    files: ['web/src/**/*.tsx'],
    rules: {
      // A component that is longer does the work of several.
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['web/src/**/*.tsx'],
    ignores: ['web/src/ui/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXOpeningElement[name.name="button"]',
          message: 'Take Button of ui/controls in one of its looks.',
        },
        {
          selector: ':matches(Literal, TemplateElement)[value.raw=/text-\\[/], Literal[value=/text-\\[/]',
          message: 'Sizes of text have names; see index.css.',
        },
      ],
    },
  },
  {
    files: ['web/**/*.{ts,tsx}', 'e2e/**/*.ts'],
    languageOptions: { globals: { ...globals.browser } },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
);
