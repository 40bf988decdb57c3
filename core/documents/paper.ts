/**
 * Documents for paper: definitions of nested plain objects, the open shape that document makers such as pdfmake take.
 * What all of them share.
 */
export type Content = string | Content[] | { [key: string]: unknown }

export interface PaperDocument {
  info: { title: string }
  pageSize: 'A4'
  pageMargins: number[]
  content: Content[]
  styles: Record<string, Record<string, unknown>>
  defaultStyle: Record<string, unknown>
}

export const A4: Pick<PaperDocument, 'pageSize' | 'pageMargins'> = { pageSize: 'A4', pageMargins: [40, 36, 40, 36] }

export const PAPER_STYLES: Pick<PaperDocument, 'styles' | 'defaultStyle'> = {
  styles: {
    title: { fontSize: 20, bold: true, margin: [0, 0, 0, 4] },
    head: { fontSize: 14, bold: true, margin: [0, 14, 0, 4] },
    step: { fontSize: 11, bold: true, margin: [0, 8, 0, 1] }, caution: { margin: [0, 3, 0, 0], bold: true },
    small: { fontSize: 8.5 },
  },
  defaultStyle: { fontSize: 9.5, lineHeight: 1.15 },
}

/** Letters that the fonts of document makers often lack. */
export const plain = (text: string): string => text.replace(/ ?→ ?/g, ' to ')

export const head = (text: string): Content => ({ text, style: 'head' })

export const table = (heads: readonly string[], rows: readonly (readonly (string | number)[])[],
  widths: (string | number)[]): Content => ({
  table: {
    headerRows: 1, widths, dontBreakRows: true,
    body: [heads.map(text => ({ text, bold: true })), ...rows.map(row => row.map(value => plain(String(value))))],
  },
  layout: 'lightHorizontalLines', margin: [0, 2, 0, 0],
})
