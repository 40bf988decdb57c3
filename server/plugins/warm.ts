import { readCatalogue } from '../utils/catalogue'

/** The first thread is there, and the catalogue made, before the first request asks. */
export default defineNitroPlugin(() => {
  if (import.meta.dev) return
  // After the entry has run: only then does the server know where it lies.
  setImmediate(() => {
    for (const gzip of [true,
      false]) readCatalogue(gzip).catch(error => console.error('The catalogue could not be made:', error))
  })
})
