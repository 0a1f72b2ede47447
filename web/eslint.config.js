import svelte from 'eslint-plugin-svelte';
import ts from 'typescript-eslint';

export default ts.config(
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: ts.parser } },
  },
  {
    rules: {
      // All addresses are under the root of the server.
      'svelte/no-navigation-without-resolve': 'off',
      // Maps and sets here are replaced, never changed once shown.
      'svelte/prefer-svelte-reactivity': 'off',
    },
  },
  { ignores: ['src/lib/api/schema.d.ts'] },
);
