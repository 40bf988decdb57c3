import { describe, expect, it } from 'vitest'
import { fuzz, fuzzed, READERS } from '../fuzz'

describe('readers of what somebody else wrote', () => {
  it('end ten thousand twisted inputs with a result or a typed error, each within two seconds', () => {
    const { fallen, count } = fuzz(10_000)
    expect(fallen).toEqual([])
    expect(count).toBeGreaterThanOrEqual(10_000)
  })

  it('are given inputs that come near enough to be read, and others', () => {
    for (const reader of READERS) {
      let read = 0
      for (let seed = 1; seed <= 200; seed++) {
        try {
          const result = reader.read(fuzzed(reader, seed)) as { ok?: boolean } | null
          if (result?.ok !== false) read++
        }
        catch { /* a typed error, counted by what is missing */ }
      }
      expect(read, reader.name).toBeGreaterThan(1)
    }
  })
})
