/** Text inside HTML and SVG: nothing in it is taken for markup, in an element or in an attribute. */
export const escapeMarkup = (text: string): string =>
  text.replace(/[<>&"']/g,
    letter => ({ '<': '&lt;', '>': '&gt;', '&': '&amp;', '"': '&quot;', '\'': '&#39;' })[letter]!)
