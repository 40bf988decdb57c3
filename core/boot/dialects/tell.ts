/** Which kind of file somebody drops: told by its bytes, its name and its lines. */
import { DIRECTIVES, parseMenu } from './extlinux'

export type Dialect = 'key-value' | 'extlinux' | 'environment'

export type FileKind = Dialect | 'command-line' | 'tree-blob' | 'overlay-blob' | 'tree-source' | 'plan' | 'unknown'

const FIRMWARE_KEYS = /^\s*(dtparam|dtoverlay|gpu_mem|enable_uart|arm_64bit|arm_freq|hdmi_\w+|display_\w+|disable_\w+|camera_auto_detect|max_framebuffers|initial_turbo|core_freq|over_voltage\w*|kernel|gpio)\s*=/
const ENVIRONMENT_KEYS
  = /^\s*(overlays|user_overlays|overlay_prefix|verbosity|bootlogo|fdtfile|rootdev|rootfstype|extraargs|usbstoragequirks|console|param_\w+)=/

/**
 * The dialect of a text that is a boot file. Each line speaks for one; the name and then the key-value dialect
 * decide a tie.
 */
export function tellDialect(text: string, name = ''): Dialect {
  const lines = text.split(/\r?\n/, 400).filter(line => line.trim() && !line.trim().startsWith('#'))
  const menu = parseMenu(lines.join('\n')).filter(line => line.kind === 'directive' && !/=/.test(line.keyword!)).length
  const environment = lines.filter(line => ENVIRONMENT_KEYS.test(line) && !/^\s*console=.*\s/.test(line)).length
  const keyValue = lines.filter(line =>
    FIRMWARE_KEYS.test(line) || /^\s*\[[^\]]*\]\s*$|^\s*include\s+\S+\.txt\s*$/.test(line)).length
  const base = name.toLowerCase().split('/').at(-1)!
  const named = {
    'extlinux': /extlinux|\.conf$/.test(base) ? 1 : 0, 'environment': /env/.test(base) ? 1 : 0,
    'key-value': /^config.*\.txt$/.test(base) ? 1 : 0,
  }
  const votes: [Dialect, number][] = [
    ['key-value', 2 * keyValue + named['key-value']], ['extlinux', 2 * menu + named.extlinux],
    ['environment', 2 * environment + named.environment],
  ]
  return votes.reduce((best, vote) => vote[1] > best[1] ? vote : best)[0]
}

const text8 = (bytes: Uint8Array) => Array.from(bytes.subarray(0, 200_000), byte => String.fromCharCode(byte)).join('')

/** What a file is. `unknown` when nothing in it says. */
export function tellFile(name: string, bytes: Uint8Array): FileKind {
  if (bytes.length >= 4 && bytes[0] === 0xD0 && bytes[1] === 0x0D && bytes[2] === 0xFE && bytes[3] === 0xED)
    return /__overlay__/.test(text8(bytes)) ? 'overlay-blob' : 'tree-blob'
  const text = text8(bytes)
  const base = name.toLowerCase().split('/').at(-1)!
  if (/\/dts-v1\/|\/plugin\//.test(text) || base.endsWith('.dts') || base.endsWith('.dtso')) return 'tree-source'
  if (text.includes('"voltaris-plan"')) return 'plan'
  if (bytes.subarray(0, 8000).includes(0)) return 'unknown'
  if (/cmdline/.test(base)) return 'command-line'
  const lines = text.split(/\r?\n/).filter(line => line.trim())
  const known = lines.filter(line =>
    FIRMWARE_KEYS.test(line) || ENVIRONMENT_KEYS.test(line)
    || DIRECTIVES.has(line.trim().split(/\s/)[0]!.toLowerCase())).length
  if (lines.length === 1 && /\b(root|console|rootwait|quiet)\b/.test(text)
    && /\s/.test(text.trim())) return 'command-line'
  if (known || /^config.*\.txt$|extlinux|env\.txt$/.test(base)) return tellDialect(text, name)
  return 'unknown'
}
