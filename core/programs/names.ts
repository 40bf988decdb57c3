/** The languages by the names that people have for them. */
import type { Language } from './types'

export const LANGUAGE_NAMES: Readonly<Record<Language, string>> = {
  python: 'Python', c: 'C or C++', javascript: 'JavaScript', shell: 'shell', yaml: 'YAML', json: 'JSON',
  boot: 'boot lines',
  table: 'a table',
}
