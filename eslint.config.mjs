import astro from 'eslint-plugin-astro';
import hooks from 'eslint-plugin-react-hooks';
import typescript from 'typescript-eslint';

const clockSentence = 'src/server/clock.ts is the only clock; take the time as an argument or from there.';
const clockRules = {
  'no-restricted-syntax': [
    'error',
    { selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']", message: clockSentence },
    { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: clockSentence },
    { selector: 'Literal[value=/\\bNOW\\(|CURRENT_TIMESTAMP|SYSDATE\\(/i]', message: clockSentence },
    { selector: 'TemplateElement[value.raw=/\\bNOW\\(|CURRENT_TIMESTAMP|SYSDATE\\(/i]', message: clockSentence },
    {
      selector: ':matches(ObjectExpression > SpreadElement, JSXSpreadAttribute) > ObjectExpression',
      message: 'Spread literals escape the check for excess properties: write the properties plainly.',
    },
    {
      selector: 'TemplateElement[value.raw=/INSERT IGNORE|GET_LOCK|LOCK TABLES/i]',
      message: 'Silent inserts and named locks are not used; see docs/decisions/0002-database.md.',
    },
  ],
};

export default [
  { ignores: ['dist/', '.data/', '.astro/', 'node_modules/', 'test-results/'] },
  ...typescript.configs.recommended,
  ...astro.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false },
      ],
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      'max-lines': ['error', 400],
    },
  },
  // Where something waits in a loop for a reason, its file says which.
  { files: ['src/**/*.{ts,tsx}'], ignores: ['**/*.test.ts'], rules: { 'no-await-in-loop': 'error' } },
  { files: ['src/**/*.{ts,tsx,astro}', 'standins/**/*.{ts,tsx}'], rules: clockRules },
  {
    files: ['src/server/clock.ts', 'src/snippet/clock.ts', 'standins/shared/clock.ts', '**/*.test.ts'],
    rules: { 'no-restricted-syntax': 'off' },
  },
  {
    files: ['src/**/*.tsx'],
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, 'react-hooks/incompatible-library': 'off' },
  },
];
