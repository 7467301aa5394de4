import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import { defineConfig, globalIgnores } from 'eslint/config'
import ts from 'typescript-eslint'

const features = ['bench', 'kit', 'dialin', 'plan', 'run', 'inspect', 'compare', 'verdict', 'failures', 'devices']

export default defineConfig([
  globalIgnores(['src/lib/schema.d.ts', 'dist']),
  js.configs.recommended,
  ts.configs.recommended,
  hooks.configs.flat.recommended,
  // A feature is one folder: it imports shared pieces, never another feature.
  ...features.map((name) => ({
    files: [`src/features/${name}/**`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: features
            .filter((f) => f !== name)
            .map((f) => `**/features/${f}/*`)
            .concat(features.filter((f) => f !== name).map((f) => `../${f}/*`)),
        },
      ],
    },
  })),
  {
    files: ['src/components/**', 'src/lib/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['**/features/**'] }] },
  },
])
