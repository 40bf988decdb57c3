/** The board as a component: header positions and sockets. */
import type { Board } from '../catalogue/types'
import type { Component, Pin, PinId } from './types'

export const BOARD_ID = '@board'
export const positionPin = (position: number): PinId => `@P${position}`
export const SOCKET_PIN = '@socket'
/** The return beside a pin that carries a supply. */
export const returnOf = (pin: PinId): PinId => `${pin}-`

export type SocketKind = 'usb' | 'video' | 'fan' | 'display'
export const socketPin = (kind: SocketKind, nth: number): PinId => `@${kind}${nth}`

const SOCKET_WORDS: Readonly<Record<SocketKind, string>> = {
  usb: 'USB socket', video: 'video socket', fan: 'fan socket', display: 'display connector',
}

/**
 * Header positions with their line or rail, the power socket, and the data sockets. Positions of one rail and all
 * grounds are joined inside.
 */
export function boardComponent(board: Board): Component {
  const label = ({ kind, line, position }: Board['header'][number]) =>
    `position ${position} (${line !== undefined ? `G${line}` : kind === 'ground' ? 'GND' : kind})`
  const sockets = (Object.keys(SOCKET_WORDS) as SocketKind[]).flatMap(kind => Array.from({
    length: board.sockets[kind] ?? 0,
  }, (_, i): Pin[] => {
    const id = socketPin(kind, i + 1)
    const name = (board.sockets[kind] ?? 0) > 1 ? `${SOCKET_WORDS[kind]} ${i + 1}` : SOCKET_WORDS[kind]
    return kind === 'usb'
      ? [{ id, label: name }, { id: returnOf(id), label: `${name}, return` }]
      : [{ id, label: name }]
  }).flat())
  const of = (kind: Board['header'][number]['kind']) => board.header.filter(entry => entry.kind === kind)
    .map(entry => positionPin(entry.position))
  const returns = sockets.filter(pin => pin.id.endsWith('-')).map(pin => pin.id)
  return {
    id: BOARD_ID, kind: 'board', name: board.name, what: 'Board', node: '@board', type: board.id,
    ...board.price !== undefined && { price: board.price },
    pins: [
      ...board.header.map(entry => ({ id: positionPin(entry.position), label: label(entry) })),
      { id: SOCKET_PIN, label: 'power socket' }, { id: returnOf(SOCKET_PIN), label: 'power socket, return' },
      ...sockets,
    ],
    inside: [of('5V'), of('3V3'), [...of('ground'), returnOf(SOCKET_PIN), ...returns]].filter(pins => pins.length > 1),
  }
}
