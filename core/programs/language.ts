/** Which language a text is written in: by its name, else by what only that one has. */
import type { Language } from './types'
import { partedBy } from './read/table'

const BY_ENDING: readonly (readonly [RegExp, Language])[] = [
  [/\.pyw?$/i, 'python'], [/\.(c|h|cc|cpp|cxx|hpp|hh|ino)$/i, 'c'], [/\.(m?js|cjs|m?ts)$/i, 'javascript'],
  [/\.(sh|bash)$/i, 'shell'],
  [/\.ya?ml$/i, 'yaml'], [/\.json$/i, 'json'], [/(^|\/)(config\.txt|.*\.dtparam)$/i, 'boot'],
  [/\.(csv|tsv|md)$/i, 'table'],
]

/** What speaks for each, each time it stands in the text. */
const SIGNS: Readonly<Record<Exclude<Language, 'json' | 'table'>, RegExp>> = {
  python: /^\s*(import \w[\w.]*( as \w+)?(, *\w[\w.]*( as \w+)?)*|from [\w.]+ import |def \w+\(.*\).*:|class \w+.*:|if .*:|for .* in .*:|while .*:|try:|with .*:|elif .*:|else:)\s*(#.*)?$/,
  c: /^\s*(#\s*(include|define|ifdef|ifndef|pragma)\b|(static |const |constexpr |unsigned |extern |volatile )+\w|(void|int|bool|char|float|double|u?int\d+_t|auto) \w+.*[;{(]|std::|using namespace|}\s*;\s*$|\w+(::\w+)+.*;)/,
  javascript: /^\s*(const |let |var |interface \w+.*\{|type \w+ =|for \((const|let) \w+ of |import .* from |export |(async )?function\b|.*=>|.*require\(|module\.exports|}\);?\s*$)/,
  shell: /^(#!.*\b(ba|da|a|z)?sh\b|\s*(fi|done|esac|then|do)\s*$|\s*(if|while|until) \[|\s*for \w+ in [^:]*(;|$)|\s*(sudo|echo|export|gpioset|gpioget|gpiomon|i2c\w+|pinctrl|stty|sleep|set -)\s|\w+=[^=\s]*$|.*\$\{?\w+)/,
  yaml: /^\s*(- )?[\w-]+:(\s+[^{;]*)?$|^---\s*$/,
  boot: /^\s*(dtoverlay=|dtparam=|gpio=\d|enable_uart=|\[(all|none|pi\d*)\]|hdmi_\w+=|arm_freq=)/,
}

export function languageOf(text: string, name = ''): Language {
  const byName = BY_ENDING.find(([ending]) => ending.test(name))?.[1]
  if (byName) return byName
  const trimmed = text.trim()
  if (/^[[{]/.test(trimmed) && /[\]}]$/.test(trimmed) && /^\s*[[{]\s*("|\}|\]|\d|\[|\{)/.test(trimmed)) return 'json'
  const first = /^#!.*\b(python|node|(?:ba|da|z)?sh)/.exec(trimmed)?.[1]
  if (first) {
    if (first === 'python') return 'python'
    return first === 'node' ? 'javascript' : 'shell'
  }
  const lines = text.split(/\r?\n/).filter(line => line.trim() !== '')
  // `Button 1: pin 11 (GPIO17)`: a list of connections, one a line.
  const connections = lines.filter(line =>
    /^\S.*\b(pin|gpio|bcm|position|line)[ _]?\d{1,2}\b[^=;{}]*$/i.test(line)).length
  if (connections >= Math.max(2, lines.length * 0.6) && !/[;{}]|=/.test(text)) return 'table'
  const points = Object.entries(SIGNS).map(([language, sign]) => ({
    language: language as Language, points: lines.filter(line => sign.test(line)).length * (language === 'boot'
      ? 3
      : language === 'yaml' ? 0.8 : 1),
  })).sort((a, b) => b.points - a.points)
  const [best] = points
  if (best && best.points >= Math.max(1, lines.length * 0.1)) return best.language
  if (partedBy(lines)) return 'table'
  // A sentence that says where wires go.
  if (!best?.points && /\b(pin|gpio|bcm|position)[ _]?\d{1,2}\b/i.test(text) && !/[;{}=]/.test(text)) return 'table'
  if (best && best.points > 0) return best.language
  return /[;{}]/.test(text) ? 'c' : 'python'
}
