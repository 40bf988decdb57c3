import { defineVuetifyConfiguration } from 'vuetify-nuxt-module/custom-configuration'

const common = { 'border-opacity': 0.14, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.78 }
/** Every field that is typed into or chosen from. */
const FIELD = { variant: 'outlined', density: 'compact', hideDetails: 'auto', color: 'primary' } as const

/**
 * Warm paper and deep slate; copper acts, carmine stops, ochre cautions. The look of every control is set here and in
 * `assets/material.css`.
 */
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
          'surface-variant': '#24343b', 'on-surface-variant': '#eef0ea',
        },
      },
      night: {
        dark: true, variables: { ...common, 'border-color': '#efe9dc' },
        colors: {
          'background': '#171d20', 'surface': '#20282c', 'primary': '#e0915f', 'secondary': '#93aab3',
          'on-secondary': '#12181b', 'error': '#ff7f97',
          'warning': '#e0b04a', 'success': '#7cc4a3', 'on-background': '#ece7dc', 'on-surface': '#ece7dc', 'on-primary': '#20130b',
          'surface-variant': '#ece7dc', 'on-surface-variant': '#171d20',
        },
      },
    },
  },
  defaults: {
    VBtn: { variant: 'flat', rounded: 'sm', class: 'text-none' },
    VTextField: FIELD,
    VNumberInput: { ...FIELD, controlVariant: 'hidden', precision: null, decimalSeparator: '.' },
    VTextarea: FIELD,
    VSelect: { ...FIELD, menuProps: { maxHeight: 420 } },
    VAutocomplete: { ...FIELD, menuProps: { maxHeight: 420 } },
    VCombobox: FIELD,
    VFileInput: FIELD,
    VCheckbox: { density: 'compact', hideDetails: 'auto', color: 'primary' },
    VCheckboxBtn: { density: 'compact', color: 'primary' },
    VSwitch: { density: 'compact', hideDetails: 'auto', color: 'primary', inset: true },
    VRadioGroup: { density: 'compact', hideDetails: 'auto', color: 'primary' },
    VBtnToggle: { density: 'compact', mandatory: true, divided: true, variant: 'outlined', rounded: 'sm' },
    VTabs: { density: 'compact', color: 'primary' },
    VTab: { class: 'text-none' },
    VTable: { density: 'compact' },
    VDataTable: { density: 'compact', itemsPerPage: -1, hideDefaultFooter: true },
    VDataTableVirtual: { density: 'compact' },
    VList: { density: 'compact' },
    VChip: { size: 'small', rounded: 'sm', variant: 'outlined' },
    VExpansionPanels: { variant: 'accordion', elevation: 0 },
    VAlert: { variant: 'tonal', density: 'compact' },
    VTooltip: { location: 'bottom', openDelay: 250 },
    VDialog: { maxWidth: 620 },
  },
})
