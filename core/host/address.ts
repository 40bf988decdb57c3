/** Arithmetic of addresses. published: RFC 4632 (prefixes), RFC 919 (the address to all) */

const numberOf = (address: string) => address.split('.').reduce((sum, octet) => sum * 256 + Number(octet), 0)
const inDots = (value: number) => [24, 16, 8, 0].map(shift => Math.floor(value / 2 ** shift) % 256).join('.')

export interface Network {
  /** The address of the net itself, and the one that reaches all in it. */
  first: string
  last: string
  /** How many can be given to things. */
  hosts: number
  holds: (address: string) => boolean
  /** The first that can be given: mostly the router's. */
  usualGateway: string
}

/** The net of an address with its width, such as `192.168.7.20/24`. */
export function networkOf(withWidth: string): Network {
  const [address, width] = withWidth.split('/') as [string, string]
  const size = 2 ** (32 - Number(width))
  const first = Math.floor(numberOf(address) / size) * size
  return {
    first: inDots(first), last: inDots(first + size - 1), hosts: Math.max(0, size - 2),
    holds: other => Math.floor(numberOf(other) / size) * size === first, usualGateway: inDots(first + 1),
  }
}
