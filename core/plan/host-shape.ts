/**
 * What the board must be told beside its boot file, and what is written down of it. No secret has a field here: only
 * where it is kept.
 */
import { flag, list, map, number, object, oneOf, open, optional, starting, text, type Of } from '../shape/shape'

const shortId = text({ max: 60 })
const words = text({ empty: true, max: 300 })
const line = text({ max: 1000, pattern: /^[^\n\r\0]*$/, called: 'one line' })

/** RFC 1123: letters, digits and dashes, no dash at either end. */
export const HOST_NAME = /^[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?$/
/** As `useradd` of the usual systems lets one be made. */
export const USER_NAME = /^[a-z_][a-z0-9_-]{0,31}$/
const octet = '(?:25[0-5]|2[0-4]\\d|1?\\d?\\d)'
export const IPV4 = new RegExp(`^(?:${octet}\\.){3}${octet}$`)
export const IPV4_WIDTH = new RegExp(`^(?:${octet}\\.){3}${octet}/(?:[1-9]|[12]\\d|3[0-2])$`)
const INTERFACE = /^[a-z][a-z0-9]{0,14}$/

const runs = open({
  id: shortId,
  /** Names the service and its file. */
  name: text({ pattern: /^[A-Za-z0-9][A-Za-z0-9_-]{0,59}$/, called: 'letters, digits, dashes and underscores' }),
  /** By itself in the background, with the desktop, or as a page that fills the screen. */
  how: oneOf('service', 'desktop', 'page'),
  /** The program with what it is called with; of a page its address. */
  command: line,
  /** Where it is started. */
  folder: optional(line),
  restart: optional(oneOf('never', 'on-failure', 'always')),
  /** Waits until the network is there. */
  network: optional(flag),
  /** Sound without gaps: real-time priority and memory that is not put aside. */
  realTime: optional(flag),
})

const usbName = open({
  id: shortId,
  /** It appears as `/dev/` with this. */
  name: text({ pattern: /^[a-z][a-z0-9_-]{0,30}$/, called: 'small letters, digits, dashes and underscores' }),
  /** Told by its serial number, or by the socket it sits in. */
  by: oneOf('serial', 'socket'),
  /** Four hex digits each, as `lsusb` prints them. */
  vendor: optional(text({ pattern: /^[0-9a-f]{4}$/, called: 'four hex digits' })),
  product: optional(text({ pattern: /^[0-9a-f]{4}$/, called: 'four hex digits' })),
  /** The serial number, or the socket's path such as `1-1.2`. */
  value: text({ pattern: /^[A-Za-z0-9._:-]{1,80}$/, called: 'letters, digits, dots, dashes and colons' }),
  partId: optional(shortId),
})

/** One key of a matrix: what the kernel calls it, and what it types where that is another thing. */
const matrixKey = object({
  code: text({ pattern: /^KEY_[A-Z0-9_]{1,30}$/, called: 'a key such as KEY_A' }),
  types: optional(text({ max: 8 })),
  shifted: optional(text({ max: 8 })),
})

/** Something that is kept loaded or on the card. */
const keeps = open({
  id: shortId, what: text({ max: 120 }), memoryMb: optional(number({ min: 0, max: 1e6 })),
  cardMb: optional(number({ min: 0, max: 1e8 })),
  /** Written in a day, which wears the card. */
  writesMbPerDay: optional(number({ min: 0, max: 1e7 })),
})

const hostFields = {
  name: optional(text({ pattern: HOST_NAME, called: 'letters, digits and dashes' })),
  user: optional(text({ pattern: USER_NAME, called: 'small letters, digits, dashes and underscores' })),
  timeZone: optional(text({ pattern: /^[A-Za-z_]+(?:\/[A-Za-z0-9_+-]+){0,2}$/, called: 'a zone such as Europe/Rome' })),
  language: optional(text({ pattern: /^[a-z]{2,3}_[A-Z]{2}$/, called: 'language and country such as en_GB' })),
  /** Layout of the keyboard, as XKB calls it. */
  layout: optional(text({ pattern: /^[a-z]{2,8}$/, called: 'a layout such as us' })),
  /** A remote shell. */
  remote: optional(flag),
  /** Public keys that may log in: they are no secret. */
  keys: optional(list(text({ pattern: /^(ssh|ecdsa|sk)-[a-z0-9@.-]+ [A-Za-z0-9+/=]+( [^\n\r]*)?$/,
    called: 'a public key' }), { max: 20 })),
  /** A radio network by its name; its key is never kept. */
  radio: optional(object({
    network: text({ max: 32, pattern: /^\P{Cc}+$/u, called: 'a name of a network, without control characters' }),
    country: text({ pattern: /^[A-Z]{2}$/, called: 'two capital letters' }),
  })),
  address: optional(object({
    interface: text({ pattern: INTERFACE, called: 'an interface such as eth0' }),
    /** With its width: `192.168.7.20/24`. */
    address: text({ pattern: IPV4_WIDTH, called: 'an address with its width, such as 192.168.7.20/24' }),
    gateway: optional(text({ pattern: IPV4, called: 'four numbers with dots' })),
    names: optional(list(text({ pattern: IPV4, called: 'four numbers with dots' }), { max: 4 })),
  })),
  runs: starting(list(runs, { max: 30, unique: 'id' }), []),
  usbNames: starting(list(usbName, { max: 30, unique: 'id' }), []),
  /** The program that shows keys on the screen, started with the desktop. */
  screenKeys: optional(line),
  /** Keys of each matrix by row and column: `pad` → `1.2` → key. */
  matrix: starting(map(map(matrixKey, text({ pattern: /^\d{1,2}\.\d{1,2}$/, called: 'row.column' })), shortId), {}),
  /** What the power key does. */
  powerKey: optional(oneOf('poweroff', 'reboot', 'ignore')),
  /** Memory of the board, where there are several of its kind. */
  memoryMb: optional(number({ min: 64, max: 65_536, whole: true })),
  keeps: starting(list(keeps, { max: 60, unique: 'id' }), []),
  /** Files as they lie on the board, by path, and what Voltaris wrote last. */
  files: starting(map(open({ text: text({ empty: true, max: 200_000 }),
    written: optional(text({ empty: true, max: 200_000 })) }),
  text({ max: 300 })), {}),
  record: starting(open({
    image: optional(words), imageDate: optional(words), kernel: optional(words), address: optional(words),
    /** Where the password is written down; never the password. */
    passwordAt: optional(words), installed: optional(text({ empty: true, max: 20_000 })),
    notes: optional(text({ empty: true,
      max: 20_000 })),
  }), {}),
}

export const hostShape = open(hostFields)
export interface Host extends Of<typeof hostShape> {}
export interface HostRun extends Of<typeof runs> {}
export interface UsbName extends Of<typeof usbName> {}
export interface MatrixKey extends Of<typeof matrixKey> {}
export interface Keeps extends Of<typeof keeps> {}
export interface HostFile { text: string, written?: string }
