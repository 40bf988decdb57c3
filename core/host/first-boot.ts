/**
 * First-boot settings. published: cloud-init documentation, module reference and network config version 2; netplan(5)
 */
import type { Facts } from '../facts/types'
import { yamlText } from './quoting'
import type { Row, SmallFile } from './types'

/** Where the first start looks on the card: beside the boot file. */
const cardFolder = ({ plan, board }: Facts) =>
  (plan.boot?.path ?? board?.bootPath ?? '/boot/firmware/config.txt').replace(/(\/extlinux)?\/[^/]*$/, '') || '/boot'

/** `user-data`; null while nothing is said that belongs there. */
export function firstBoot(facts: Facts, groups: readonly string[]): SmallFile | null {
  const { host } = facts.plan
  if (!host.name && !host.user && !host.timeZone && !host.language && !host.layout && !host.remote) return null
  const keys = host.keys ?? []
  const user: Row[] = host.user
    ? [
        ['users:', ''],
        [`  - name: ${yamlText(host.user)}`, 'The person that works on the board; no user comes with the image then.'],
        ['    shell: /bin/bash', ''],
        [`    groups: [${['adm', 'sudo', ...groups].map(yamlText).join(', ')}]`,
          `Reads the logs, administers${groups.length
            ? `, and uses what this plan needs: ${groups.join(', ')}`
            : ''}.`],
        [`    lock_passwd: ${keys.length > 0}`, keys.length
          ? 'No password logs in: a key does.'
          : 'A password logs in. Its hash belongs into the next line, and nowhere else.'],
        ...keys.length
          ? []
          : [['    # passwd: "the hash goes here"',
              'Made on any machine by: openssl passwd -6'] as Row],
        ...keys.length
          ? [['    ssh_authorized_keys:', 'Public keys that may log in.'] as Row, ...keys.map((key): Row =>
              [`      - ${JSON.stringify(key)}`, ''])]
          : [],
      ]
    : []
  const rows: Row[] = [
    ['#cloud-config', 'Says what it is: without this first line nothing of it is read.'],
    ...host.name
      ? [[`hostname: ${yamlText(host.name)}`, 'The name on the network.'] as Row, ['manage_etc_hosts: true',
          'The name is known on the board itself, too.'] as Row]
      : [],
    ...host.timeZone ? [[`timezone: ${yamlText(host.timeZone)}`, 'What time logs and timers go by.'] as Row] : [],
    ...host.language ? [[`locale: ${host.language}.UTF-8`, 'Language of messages.'] as Row] : [],
    ...host.layout
      ? [['keyboard:', ''] as Row, [`  layout: ${yamlText(host.layout)}`,
          'Layout of a keyboard that is plugged in.'] as Row]
      : [],
    ...user,
    ...host.remote
      ? [
          [`ssh_pwauth: ${keys.length === 0}`, keys.length
            ? 'Passwords are refused from outside.'
            : 'Passwords are taken from outside.'] as Row,
          ['runcmd:', 'Once, at the end of the first start.'] as Row,
          ['  - [systemctl, enable, --now, ssh]', 'The remote shell, now and at each start.'] as Row,
        ]
      : [],
  ]
  return {
    what: 'First-boot settings', path: `${cardFolder(facts)}/user-data`, owner: 'root', mode: '0600', rows,
    after: { is: 'first start' },
    ...host.remote && { opens: 'The remote shell.' }, checkedBy: 'cloud-init schema --config-file user-data',
    ...host.user && !keys.length
    && { secret: 'The hash of the password, on the card only. The plan keeps where it is noted.' },
  }
}

/** `network-config`, read at the first start. */
export function networkConfig(facts: Facts): SmallFile | null {
  const { host } = facts.plan
  const { radio, address } = host
  if (!radio && !address) return null
  const isRadio = (name: string) => name.startsWith('wl')
  const fixed = (name: string): Row[] => address?.interface === name
    ? [
        ['      dhcp4: false', 'No address is asked for.'],
        [`      addresses: [${JSON.stringify(address.address)}]`, 'The address that stays.'],
        ...address.gateway
          ? [['      routes:', ''] as Row, ['        - to: default', 'The way out …'] as Row,
              [`          via: ${JSON.stringify(address.gateway)}`, '… is through the router.'] as Row]
          : [],
        ...address.names?.length
          ? [['      nameservers:', ''] as Row,
              [`        addresses: [${address.names.map(name => JSON.stringify(name)).join(', ')}]`,
                'Who knows names.'] as Row]
          : [],
      ]
    : [['      dhcp4: true', 'The router gives an address.']]
  const wire = address && !isRadio(address.interface) ? address.interface : null
  let wireless: string | null
  if (radio) wireless = address && isRadio(address.interface) ? address.interface : 'wlan0'
  else wireless = null
  const rows: Row[] = [
    ['network:', ''], ['  version: 2', ''],
    ...wire ? [['  ethernets:', 'By cable.'] as Row, [`    ${wire}:`, ''] as Row, ...fixed(wire)] : [],
    ...radio && wireless
      ? [
          ['  wifis:', 'By radio.'] as Row, [`    ${wireless}:`, ''] as Row,
          [`      regulatory-domain: ${JSON.stringify(radio.country)}`, 'Which channels are allowed there.'] as Row,
          ...fixed(wireless),
          ['      access-points:', ''] as Row,
          [`        ${JSON.stringify(radio.network)}:`, 'The network by its name.'] as Row,
          ['          hidden: false', ''] as Row,
          ['          # password: "the key of the network goes here"',
            'Into this line, on the card only. Without it the network has to be an open one.'] as Row,
        ]
      : [],
  ]
  return {
    what: 'Network at the first start', path: `${cardFolder(facts)}/network-config`, owner: 'root', mode: '0600', rows,
    after: { is: 'first start' },
    checkedBy: 'netplan generate', ...radio && { secret: 'The key of the radio network, in the file on the card only.',
      opens: 'The board is on that network.' },
  }
}

/**
 * A name as a key file has it: backslashes and spaces at its ends are escaped, and semicolons, which would part a list
 * of bytes. published: nm-settings-keyfile(5)
 */
const keyfileText = (text: string) => text.replaceAll('\\', '\\\\').replace(/^ +| +$/g,
  spaces => '\\s'.repeat(spaces.length))
  .replaceAll(';', '\\\\;')

/** The same address on a board that runs already. published: nm-settings-keyfile(5) */
export function fixedAddress({ plan: { host: { address, radio } } }: Facts): SmallFile | null {
  if (!address) return null
  const byRadio = address.interface.startsWith('wl')
  const id = `fixed-${address.interface}`
  const rows: Row[] = [
    ['[connection]', ''], [`id=${id}`, 'Its name in lists.'], [`type=${byRadio ? 'wifi' : 'ethernet'}`, ''],
    [`interface-name=${address.interface}`, 'For this socket alone.'], ['autoconnect-priority=10',
      'Goes before what was made by itself.'], ['', ''],
    ...byRadio
      ? [['[wifi]', ''] as Row, ['mode=infrastructure', ''] as Row, [`ssid=${keyfileText(radio?.network ?? 'network')}`,
          'The network by its name.'] as Row, ['', ''] as Row,
        ['[wifi-security]', ''] as Row, ['key-mgmt=wpa-psk', ''] as Row, ['# psk=the key of the network goes here',
          'Into this line, on the board only.'] as Row, ['', ''] as Row]
      : [],
    ['[ipv4]', ''], ['method=manual', 'No address is asked for.'],
    [`address1=${address.address}${address.gateway ? `,${address.gateway}` : ''}`, address.gateway
      ? 'The address that stays, and the router.'
      : 'The address that stays.'],
    ...address.names?.length
      ? [[`dns=${address.names.map(name => `${name};`).join('')}`, 'Who knows names.'] as Row]
      : [],
    ['', ''], ['[ipv6]', ''], ['method=auto', ''],
  ]
  return {
    what: 'A fixed address', path: `/etc/NetworkManager/system-connections/${id}.nmconnection`, owner: 'root',
    mode: '0600', rows,
    after: { is: 'reload', command: `nmcli connection reload && nmcli connection up ${id}` },
    checkedBy: 'nmcli --offline connection modify',
    ...byRadio && { secret: 'The key of the radio network, in the file on the board only.' },
  }
}
