/**
 * Devices that come whole, screen and computer in one: what a panel of one's own is held against by price. Made up, as
 * all prices here.
 */

export interface ReadyMade {
  id: string
  name: string
  sizeInch: number
  touch: 'resistive' | 'capacitive'
  /** USB sockets that it has for what the maker plugs in. */
  usb: number
  price: number
}

/** Memory: sizes, sockets and what one pays more for the whole are those usual in the trade. */
export const READY_MADE: readonly ReadyMade[] = [
  { id: 'ready-panel-7', name: 'Ready-made panel computer, 7-inch', sizeInch: 7, touch: 'capacitive', usb: 2,
    price: 210 },
  { id: 'ready-panel-7-plain', name: 'Ready-made panel computer, 7-inch, resistive', sizeInch: 7, touch: 'resistive',
    usb: 2, price: 180 },
  { id: 'ready-panel-10', name: 'Ready-made panel computer, 10-inch', sizeInch: 10.1, touch: 'capacitive', usb: 4,
    price: 290 },
]
