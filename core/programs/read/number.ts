/** `17`, `0x3C`, `0b101`, `400_000`, `1e6`, `400'000u`; null for what is none. */
export function numberIn(text: string): number | null {
  const plain = text.trim().replace(/(?<=[\da-f])[_'](?=[\da-f])/gi, '')
  const match = /^(0[xX][\da-fA-F]+|0[bB][01]+|0[oO][0-7]+|\d+(?:\.\d*)?(?:[eE][+-]?\d+)?)(?:[uUlLzZ]+|[fF]|n)?$/.exec(plain)
  if (!match) return null
  const value = Number(match[1])
  return Number.isFinite(value) ? value : null
}
