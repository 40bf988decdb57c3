// @ts-check
import withNuxt from './.nuxt/eslint.config.mjs'

export default withNuxt(
  {
    rules: {
      // A name for a declared shape: errors show it in place of all its fields.
      '@stylistic/max-len': ['error', {
        code: 120, tabWidth: 2, ignoreRegExpLiterals: true, ignoreTemplateLiterals: true, ignoreStrings: true,
      }],
      '@typescript-eslint/no-empty-object-type': ['error', { allowInterfaces: 'with-single-extends' }],
    },
  },
  // Templates and styles of the interface are laid out by tags and rules; their lines may be somewhat longer.
  { files: ['**/*.vue'], rules: { '@stylistic/max-len': ['error', { code: 140, tabWidth: 2, ignoreRegExpLiterals: true }] } },
  // The text of a device tree source is indented by tabs, as the kernel's is.
  { files: ['core/devicetree/bases/*.ts'], rules: { '@stylistic/no-tabs': 'off' } },
)
