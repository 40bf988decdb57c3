/** Figures for people: a unit, as many digits as matter. */
export function milliamps(ma: number): string {
  if (ma >= 1000) return `${(ma / 1000).toFixed(2)} A`
  return `${ma >= 10 || ma === 0 ? Math.round(ma) : Number(ma.toFixed(2))} mA`
}

export function clockTime(iso: string): string {
  return iso ? new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' }) : ''
}

export function dayAndTime(iso: string): string {
  return new Date(iso).toLocaleString('en-GB',
    { day: 'numeric', month: 'short', year: 'numeric', hour: '2-digit', minute: '2-digit' })
}

/** Hands the person a file, made here in the browser. */
export function download(name: string, content: string | Uint8Array, type: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([content as BlobPart], { type }))
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

/** Names that some file systems keep for devices. */
const DEVICES = /^(con|prn|aux|nul|com\d|lpt\d)$/

/** A file name from a project name, in whatever script that is written. */
export function fileName(name: string, ending: string): string {
  const base = [...name.normalize('NFC').toLowerCase().replace(/[^\p{L}\p{M}\p{N}]+/gu, '-').replace(/^-+|-+$/g,
    '')].slice(0, 50).join('')
  return `${!base || DEVICES.test(base) ? `project${base && `-${base}`}` : base}${ending}`
}

/** The name, or the name with a number where it is taken already; takes it. */
export function freeName(name: string, taken: Set<string>): string {
  const base = fileName(name, '')
  let free = base
  for (let n = 2; taken.has(free); n++) free = `${base}-${n}`
  taken.add(free)
  return free
}

/** `12.4 h`; from a day on with the day it falls into, from three days on `3.5 days`. */
export function hoursInWords(h: number): string {
  if (h >= 72) return `${Number((h / 24).toFixed(1))} days`
  return h >= 24 ? `${h.toFixed(1)} h (into day ${Math.floor(h / 24) + 1})` : `${h.toFixed(1)} h`
}
