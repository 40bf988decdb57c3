/** What `udevadm info` tells of USB things, with or without `-a`, one or several in one text. udevadm(8), Debian. */

export interface UsbThing {
  /** As the kernel calls it now: `ttyUSB0`. */
  device: string
  /** Four hex digits. */
  vendor: string
  product: string
  /** Its own number; missing where it has none that tells it apart. */
  serial?: string
  /** The socket it sits in: `1-1.2`. */
  socket?: string
}

/** Numbers that a maker of chips prints on all of them tell nothing apart. practice */
const NO_NUMBER = /^(0*1?|(0123456789|1234567890?)(abcdef)?|serial|none|default)$/i

/**
 * The USB things in a pasted text. A number that two of them share is no number. Lines of anything else are passed
 * over; nothing found is an empty list. Pure.
 */
export function readUsbThings(text: string): UsbThing[] {
  const things = blocksOf(text).flatMap((block) => {
    const thing = fromProperties(block) ?? fromWalk(block)
    return thing ? [thing] : []
  })
  const last = [...new Map(things.map(thing => [thing.device, thing])).values()]
  const shared = (serial: string) => last.filter(thing => thing.serial === serial).length > 1
  return last.map(({ serial, ...thing }) =>
    ({ ...thing, ...serial !== undefined && !NO_NUMBER.test(serial) && !shared(serial) && { serial } }))
}

/** One block for each thing asked: `P:` begins one without `-a`, "looking at device" one with it. */
function blocksOf(text: string): string[] {
  const blocks: string[][] = [[]]
  for (const line of text.split(/\r?\n/)) {
    if (/^\s*(P: |looking at device )/.test(line)) blocks.push([])
    blocks.at(-1)!.push(line.trim())
  }
  return blocks.map(lines => lines.join('\n'))
}

/** `…/usb1/1-1/1-1.2/1-1.2:1.0/ttyUSB0/tty/ttyUSB0`: the last socket on the way. */
const socketIn = (path: string) => [...path.matchAll(/\/(\d+-\d+(?:\.\d+)*)(?=\/|$)/g)].at(-1)?.[1]

function fromProperties(block: string): UsbThing | null {
  const property = (name: string) => new RegExp(`^E: ${name}=(.*)$`, 'm').exec(block)?.[1]?.trim()
  const [vendor, product] = [property('ID_VENDOR_ID')?.toLowerCase(), property('ID_MODEL_ID')?.toLowerCase()]
  const path = property('DEVPATH') ?? /^P: (.*)$/m.exec(block)?.[1] ?? ''
  const device = (property('DEVNAME') ?? path).split('/').at(-1)
  return told(device, vendor, product, property('ID_SERIAL_SHORT') ?? property('ID_USB_SERIAL_SHORT'), socketIn(path))
}

function fromWalk(block: string): UsbThing | null {
  const path = /^looking at device '([^']*)'/m.exec(block)?.[1]
  if (!path) return null
  // The nearest parent that is the thing itself, and not one of its interfaces.
  const parent = block.split(/^looking at parent device /m).slice(1).find(part => /ATTRS\{idVendor\}==/.test(part))
    ?? ''
  const attribute = (name: string) => new RegExp(`ATTRS\\{${name}\\}=="([^"]*)"`).exec(parent)?.[1]?.trim()
  return told(path.split('/').at(-1), attribute('idVendor')?.toLowerCase(), attribute('idProduct')?.toLowerCase(),
    attribute('serial'),
    /KERNELS=="([^"]*)"/.exec(parent)?.[1] ?? socketIn(path))
}

const HEX = /^[0-9a-f]{4}$/
/** As rules and shape take them. */
const VALUE = /^[A-Za-z0-9._:-]{1,80}$/

function told(device?: string, vendor?: string, product?: string, serial?: string, socket?: string): UsbThing | null {
  if (!device || !vendor || !product || !HEX.test(vendor) || !HEX.test(product)) return null
  return {
    device, vendor, product, ...serial !== undefined && VALUE.test(serial) && { serial },
    ...socket !== undefined && VALUE.test(socket) && { socket },
  }
}
