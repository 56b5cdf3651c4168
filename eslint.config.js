import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['dist', 'data', 'node_modules', 'test-results', '.cache'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  prettier,
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  {
    files: ['web/**'],
    languageOptions: { globals: globals.browser },
  },
  {
    files: ['scripts/**', '*.js', '*.mjs'],
    languageOptions: { globals: globals.node },
  },
  {
    rules: {
      // The compiler checks names better than this rule can.
      'no-undef': 'off',
      // An index into a list that was just measured is as sure as a name.
      '@typescript-eslint/no-non-null-assertion': 'off',
      // Taking a part off an object leaves the part unused, and that is what it is for.
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
    },
  },
);
