/** Parts are found by what one knows of them. */
import { describe, expect, it } from 'vitest'
import { answersTo } from '../../../core/overlays/search'
import { catalogue } from '../../plans'

const found = (query: string) =>
  [...catalogue.parts.values()].filter(part => answersTo(part, query)).map(part => part.id)

describe('looking for a part', () => {
  it.each([
    ['mcp2515', 'bus-vehicle-spi'], ['MCP-2515', 'bus-vehicle-spi'], ['ds3231', 'clock-cell-i2c'],
    ['hx711', 'scale-two-wire'],
    ['distance', 'distance-echo-5v'], ['0x76', 'pressure-humidity-i2c'], ['1-wire', 'probe-onewire'],
    ['UART', 'modem-serial'],
    ['ECHO', 'distance-echo-5v'], ['time of flight', 'distance-light-i2c'],
  ])('%s finds %s', (query, id) => {
    expect(found(query)).toContain(id)
    expect(found(query).length).toBeLessThan(40)
  })

  it('I2C, i²c and IIC are one word', () => {
    expect(found('I2C')).toEqual(found('i²c'))
    expect(found('IIC').every(id => found('i2c').includes(id))).toBe(true)
    expect(found('IIC').length).toBeGreaterThan(25)
    expect(found('i2c')).not.toContain('relay-bare')
  })

  it('every word has to be found, nothing finds all, nonsense nothing', () => {
    expect(found('humidity i2c').every(id => found('humidity').includes(id) && found('i2c').includes(id))).toBe(true)
    expect(found('').length).toBe(catalogue.parts.size)
    expect(found('  ').length).toBe(catalogue.parts.size)
    expect(found('qqqq')).toEqual([])
  })
})

describe('words that people use', () => {
  it.each([
    [
      'thermometer', 'probe-onewire',
    ], ['gps', 'positioning-serial'], ['screen', 'oled-i2c'], ['rtc', 'clock-cell-i2c'], ['rfid', 'card-reader-spi'],
    [
      'ultrasonic', 'distance-echo-5v',
    ], ['adc', 'analog-8-spi'], ['speaker', 'amplifier-i2s'], ['shield', 'audio-add-on'], ['gyro', 'motion-i2c'],
    [
      'hygrometer', 'humidity-i2c',
    ], ['barometer', 'pressure-spi'], ['ethernet', 'network-spi'], ['keypad', 'keypad-matrix'],
    ['scale', 'scale-two-wire'],
    ['valve', 'relay-board-4'], ['e-paper', 'screen-epaper-29'],
  ])('"%s" finds %s', (word, id) => expect(found(word)).toContain(id))

  it('does not find everything by a word that means something', () => {
    for (const word of ['gps', 'rfid', 'thermometer', 'ethernet']) expect(found(word).length).toBeLessThan(30)
    expect(found('gps zebra')).toEqual([])
  })
})
