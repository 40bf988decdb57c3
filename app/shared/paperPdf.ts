/** A document as a PDF. The maker of documents is large: it comes when somebody wants one. */
import type { PaperDocument } from '~~/core/documents/paper'

/** The bytes of the document. Rejects where the program could not be fetched, or the document not be made. */
export async function pdfOf(sheet: PaperDocument): Promise<Uint8Array> {
  const [{ default: maker },
    { default: fonts }] = await Promise.all([import('pdfmake/build/pdfmake'), import('pdfmake/build/vfs_fonts')])
  maker.addVirtualFileSystem(fonts)
  // It holds its pictures itself: nothing is fetched for it.
  maker.setUrlAccessPolicy?.(() => false)
  return new Uint8Array(await maker.createPdf(sheet as unknown as Parameters<typeof maker.createPdf>[0]).getBuffer())
}
