import { defineVuetifyConfiguration } from 'vuetify-nuxt-module/custom-configuration'

const common = { 'border-opacity': 0.14, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.78 }

/** Warm paper and deep slate; copper acts, carmine stops, ochre cautions. */
export default defineVuetifyConfiguration({
  icons: { defaultSet: 'mdi-svg' },
  theme: {
    defaultTheme: 'paper',
    themes: {
      paper: {
        dark: false, variables: { ...common, 'border-color': '#2b2a26' },
        colors: {
          'background': '#faf8f3', 'surface': '#ffffff', 'primary': '#9c4a1f', 'secondary': '#24343b', 'error': '#a3163b',
          'warning': '#7d5a00', 'success': '#2f6f55', 'on-background': '#1d2326', 'on-surface': '#1d2326', 'on-primary': '#ffffff',
        },
      },
      night: {
        dark: true, variables: { ...common, 'border-color': '#efe9dc' },
        colors: {
          'background': '#171d20', 'surface': '#20282c', 'primary': '#e0915f', 'secondary': '#93aab3',
          'on-secondary': '#12181b', 'error': '#ff7f97',
          'warning': '#e0b04a', 'success': '#7cc4a3', 'on-background': '#ece7dc', 'on-surface': '#ece7dc', 'on-primary': '#20130b',
        },
      },
    },
  },
  defaults: {
    VBtn: { variant: 'flat', rounded: 'sm', class: 'text-none' },
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VTextarea: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VDialog: { maxWidth: 620 },
  },
})
