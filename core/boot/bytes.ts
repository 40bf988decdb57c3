/** Blobs as the plan keeps them: bytes in base64. */
import { DeviceTreeError } from '../devicetree/types'

/** Bytes of a base64 text. Throws `DeviceTreeError` (`blob`) for a text that is none. */
export function bytesOf(base64: string): Uint8Array {
  if (!/^[A-Za-z0-9+/\s]*={0,2}\s*$/.test(base64) || base64.replace(/\s/g, '').length % 4) {
    throw new DeviceTreeError('blob', 'what is kept of the file is no base64')
  }
  const binary = atob(base64)
  return Uint8Array.from(binary, letter => letter.charCodeAt(0))
}

export const base64Of = (bytes: Uint8Array): string => {
  let binary = ''
  for (let at = 0; at < bytes.length; at += 0x8000) binary += String.fromCharCode(...bytes.subarray(at, at + 0x8000))
  return btoa(binary)
}
