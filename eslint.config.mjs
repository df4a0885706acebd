import tseslint from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';

const io = ['node:*', 'fs', 'path', 'http', 'crypto', 'express', 'mysql2*', 'pdfkit', 'pino*'];
const faces = ['react', 'react-*', '@chakra-ui/*', '@emotion/*', '@tanstack/*', 'echarts*', 'lucide-react'];

/** A layer may import only the layers under it; everything above, and what those alone need, is refused. */
const layer = (name, above, packages, message) => ({
  files: [`${name}/**/*.{ts,tsx}`],
  ignores: ['**/*.test.ts', '**/*.test.tsx'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          // a pattern that began with # would be a comment, so this one is a regular expression
          { regex: `^(#|(\\.\\./)+)(${above.join('|')})/`, message: `${name}/ may not import ${above.join(' or ')}: ${message}` },
          ...(packages.length ? [{ group: packages, message: `${name}/ is kept free of this package: ${message}` }] : []),
        ],
      },
    ],
  },
});

export default tseslint.config(
  { ignores: ['dist/**', 'node_modules/**', '.kadro/**', 'coverage/**'] },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
    },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  layer('model', ['core', 'server', 'web'], [...io, ...faces], 'it is only the vocabulary.'),
  layer('core', ['server', 'web'], [...io, ...faces], 'computation is pure, with no I/O and no interface code.'),
  layer('server', ['web'], faces, 'the server knows nothing of screens.'),
  layer('web', ['server'], io, 'screens reach the server only over HTTP.'),
);
