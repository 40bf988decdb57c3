/**
 * Names that stay for USB things, sound without gaps, the power key. published: udev(7), limits.conf(5), logind.conf(5)
 */
import type { Facts } from '../facts/types'
import type { Row, SmallFile } from './types'

export function usbNames({ plan: { host } }: Facts): SmallFile | null {
  if (!host.usbNames.length) return null
  const rows = host.usbNames.flatMap(({ name, by, vendor, product, value }): Row[] => {
    const match = by === 'serial'
      ? [...vendor ? [`ATTRS{idVendor}=="${vendor}"`] : [], ...product ? [`ATTRS{idProduct}=="${product}"`] : [],
          `ATTRS{serial}=="${value}"`]
      : [`KERNELS=="${value}"`]
    return [[
      [`SUBSYSTEM=="tty"`, ...match, `SYMLINK+="${name}"`, 'GROUP="dialout"', 'MODE="0660"'].join(', '),
      by === 'serial'
        ? `The one with this serial number is /dev/${name}, in whatever socket it sits.`
        : `What sits in socket ${value} is /dev/${name}, whichever it is.`,
    ]]
  })
  return {
    what: 'Names that stay', path: '/etc/udev/rules.d/72-usb-names.rules', owner: 'root', mode: '0644', rows,
    after: { is: 'reload', command: 'udevadm control --reload && udevadm trigger --subsystem-match=tty' },
  }
}

/** For logins; a service has its limits in its own file. */
export function soundLimits({ plan: { host } }: Facts): SmallFile | null {
  if (!host.runs.some(run => run.realTime && run.how !== 'service')) return null
  return {
    what: 'Sound without gaps', path: '/etc/security/limits.d/95-sound.conf', owner: 'root', mode: '0644',
    after: { is: 'new login' },
    rows: [
      ['@audio - rtprio 95', 'Whoever is in the group audio may go before everything else.'],
      ['@audio - memlock unlimited', 'Their memory is not put aside while sound runs.'],
    ],
  }
}

const KEY_SAYS = { poweroff: 'Pressed, the board shuts down in order.', reboot: 'Pressed, the board starts anew.',
  ignore: 'Pressed, nothing happens.' } as const

export function powerKey({ plan: { host } }: Facts): SmallFile | null {
  if (!host.powerKey) return null
  return {
    what: 'The power key', path: '/etc/systemd/logind.conf.d/power-key.conf', owner: 'root', mode: '0644',
    // Restarting it while somebody is logged in ends sessions on some systems.
    after: { is: 'restart' }, needs: 'A line that is a power key: the overlay gpio-shutdown in the boot file.', rows: [
      ['[Login]', ''], [`HandlePowerKey=${host.powerKey}`, KEY_SAYS[host.powerKey]],
      ['HandlePowerKeyLongPress=ignore', 'Held longer, it does no more than that.'],
    ],
  }
}
