/**
 * What each directive of a menu file does, and what it takes. Published: U-Boot documentation, "Generic
 * Distro Configuration Concept".
 */
import { tableOf } from '../../collections/table'

export const DIRECTIVE_WORDS = tableOf<{ takes: 'text' | 'number' | 'flag', what: string }>({
  'label': { takes: 'text', what: 'opens an entry; what follows belongs to it' },
  'default': { takes: 'text', what: 'the entry that starts by itself' },
  'timeout': { takes: 'number', what: 'waits this many tenths of a second for a key' },
  'totaltimeout': { takes: 'number', what: 'waits at most this many tenths of a second' },
  'ontimeout': { takes: 'text', what: 'the entry that starts when nobody presses a key' },
  'prompt': { takes: 'flag', what: '1 shows the prompt, 0 starts at once' },
  'fallback': { takes: 'text', what: 'the entry that starts when the default one fails' },
  'include': { takes: 'text', what: 'reads another file here' },
  'menu title': { takes: 'text', what: 'the title of the menu' },
  'menu background': { takes: 'text', what: 'the picture behind the menu' },
  'menu include': { takes: 'text', what: 'reads another file here' },
  'menu label': { takes: 'text', what: 'the entry\'s name in the menu' },
  'menu default': { takes: 'flag', what: 'this entry starts by itself' },
  'kernel': { takes: 'text', what: 'the kernel that is started' },
  'linux': { takes: 'text', what: 'the kernel that is started' },
  'initrd': { takes: 'text', what: 'the first file system of the kernel' },
  'append': { takes: 'text', what: 'the kernel command line' },
  'fdt': { takes: 'text', what: 'the device tree of the board' },
  'devicetree': { takes: 'text', what: 'the device tree of the board' },
  'fdtdir': { takes: 'text', what: 'the folder in which the board\'s device tree is looked for' },
  'devicetreedir': { takes: 'text', what: 'the folder in which the board\'s device tree is looked for' },
  'fdtoverlays': { takes: 'text', what: 'overlays laid onto the device tree, in order, by path' },
  'devicetree-overlay': { takes: 'text', what: 'overlays laid onto the device tree, in order, by path' },
  'localboot': { takes: 'text', what: 'starts what is on the board itself' },
  'ipappend': { takes: 'number', what: 'adds network addresses to the command line' },
  'kaslrseed': { takes: 'flag', what: 'gives the kernel a random seed' },
  'say': { takes: 'text', what: 'prints a line' },
})
