/** In a browser the shell's library finds no zlib: its gzip says so. */
const missing = (): never => {
  throw new Error('gzip is not there in a browser')
}
export const gzipSync = missing
export const gunzipSync = missing
export const constants = {}
