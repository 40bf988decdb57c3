/**
 * What `udevadm info` prints, read. The layout is that of Debian's program (systemd, udevadm(8)); the things in it
 * are made up.
 */
import { describe, expect, it } from 'vitest'
import { readUsbThings } from '../../../core/host/usb-read'

const walk = (device: string, socket: string, serial?: string, vendor = '1a2b') => `
Udevadm info starts with the device specified by the devpath and then
walks up the chain of parent devices. It prints for every device
found, all possible attributes in the udev rules key format.

  looking at device '/devices/platform/soc/usb/usb1/1-1/${socket}/${socket}:1.0/${device}/tty/${device}':
    KERNEL=="${device}"
    SUBSYSTEM=="tty"
    DRIVER==""

  looking at parent device '/devices/platform/soc/usb/usb1/1-1/${socket}/${socket}:1.0':
    KERNELS=="${socket}:1.0"
    SUBSYSTEMS=="usb"
    ATTRS{bInterfaceNumber}=="00"

  looking at parent device '/devices/platform/soc/usb/usb1/1-1/${socket}':
    KERNELS=="${socket}"
    SUBSYSTEMS=="usb"
    ATTRS{idProduct}=="7523"
    ATTRS{idVendor}=="${vendor}"
${serial === undefined ? '' : `    ATTRS{serial}=="${serial}"\n`}
  looking at parent device '/devices/platform/soc/usb/usb1/1-1':
    KERNELS=="1-1"
    SUBSYSTEMS=="usb"
    ATTRS{idProduct}=="2514"
    ATTRS{idVendor}=="0424"
    ATTRS{serial}=="OTHER1"
`

const plain = (device: string, socket: string, serial?: string) =>
  `P: /devices/platform/soc/usb/usb1/1-1/${socket}/${socket}:1.0/tty/${device}
N: ${device}
E: DEVPATH=/devices/platform/soc/usb/usb1/1-1/${socket}/${socket}:1.0/tty/${device}
E: DEVNAME=/dev/${device}
E: ID_VENDOR_ID=1A2B
E: ID_MODEL_ID=7523
${serial === undefined ? '' : `E: ID_SERIAL_SHORT=${serial}\n`}E: SUBSYSTEM=tty
`

describe('what udevadm printed', () => {
  it('is read with and without -a: the nearest thing with vendor and product, its number, its socket', () => {
    const thing = { device: 'ttyUSB0', vendor: '1a2b', product: '7523', serial: 'K77X', socket: '1-1.2' }
    expect(readUsbThings(walk('ttyUSB0', '1-1.2', 'K77X'))).toEqual([thing])
    expect(readUsbThings(plain('ttyUSB0', '1-1.2', 'K77X'))).toEqual([thing])
    expect(readUsbThings(plain('ttyUSB0', '1-1.2', 'K77X').replace(/\n/g, '\r\n'))).toEqual([thing])
  })

  it('never takes the number of the hub that it sits in', () => {
    expect(readUsbThings(walk('ttyUSB0', '1-1.3')))
      .toEqual([{ device: 'ttyUSB0', vendor: '1a2b', product: '7523', socket: '1-1.3' }])
  })

  it.each(['0', '0001', '0123456789ABCDEF', 'Serial', 'a b'])('knows that %j tells nothing apart', (serial) => {
    expect(readUsbThings(plain('ttyACM0', '1-2', serial))[0]).not.toHaveProperty('serial')
  })

  it('has several from one text; a number that two share is none', () => {
    const both = readUsbThings(plain('ttyUSB0', '1-1.2', 'SAME') + plain('ttyUSB1', '1-1.3', 'SAME'))
    expect(both.map(({ serial, socket }) => [serial, socket])).toEqual([[undefined, '1-1.2'], [undefined, '1-1.3']])
    const apart = readUsbThings(walk('ttyUSB0', '1-1.2', 'A1') + plain('ttyUSB1', '1-1.3', 'B2'))
    expect(apart.map(({ serial }) => serial)).toEqual(['A1', 'B2'])
    // The same thing asked twice is one thing.
    expect(readUsbThings(plain('ttyUSB0', '1-1.2', 'A1') + walk('ttyUSB0', '1-1.2', 'A1'))).toHaveLength(1)
  })

  it('finds nothing where nothing is told', () => {
    for (const text of ['', 'device node not found', 'P: /devices/virtual/net/lo\nE: INTERFACE=lo\n',
      'ATTRS{idVendor}=="1a2b"']) {
      expect(readUsbThings(text)).toEqual([])
    }
  })
})
