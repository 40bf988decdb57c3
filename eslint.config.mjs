// @ts-check
import withNuxt from './.nuxt/eslint.config.mjs'

export default withNuxt(
  // The text of a device tree source is indented by tabs, as the kernel's is.
  { files: ['core/devicetree/bases/*.ts'], rules: { '@stylistic/no-tabs': 'off' } },
)
