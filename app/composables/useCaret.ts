import { nextTick } from 'vue'

/**
 * Holds the caret while a field's text is changed from outside. Called before the change; what it gives is called after
 * it, and puts the caret back to the letters it stood between once the page shows the new text.
 */
export function keepCaret(): () => void {
  const field = globalThis.document?.activeElement
  const isText = field
    && (field instanceof HTMLTextAreaElement || (field instanceof HTMLInputElement && field.selectionStart !== null))
  if (!isText) return () => {}
  const { value, selectionStart, selectionEnd } = field
  return () => void nextTick(() => {
    if (document.activeElement !== field || field.value === value) return
    const move = (at: number | null) => at === null ? null : movedPlace(value, field.value, at)
    field.setSelectionRange(move(selectionStart), move(selectionEnd))
  })
}

/** Where a place in a text is after the text was changed around it. */
export function movedPlace(before: string, after: string, at: number): number {
  const max = Math.min(before.length, after.length)
  let head = 0
  while (head < max && before[head] === after[head]) head++
  let tail = 0
  while (tail < max - head && before[before.length - 1 - tail] === after[after.length - 1 - tail]) tail++
  if (at > before.length - tail || (at === before.length - tail && at > head)) return at + after.length - before.length
  return Math.min(at, after.length)
}
