import { createVuetify } from 'vuetify'
import * as components from 'vuetify/components'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

/** The interface's library with everything in it, for controls that are tried by themselves. */
export const vuetify = () => createVuetify({
  components, icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  defaults: { VNumberInput: { controlVariant: 'hidden', precision: null, decimalSeparator: '.' } },
})
