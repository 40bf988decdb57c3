/**
 * Puts text into the clipboard and says so; where the browser gives none, it goes the other way that is given, or is
 * said to be needed.
 */
export function useCopy() {
  const view = useViewStore()

  /**
   * @param text What is copied.
   * @param what Its name at the beginning of a sentence: "The address".
   * @param save Saves it as a file, where it makes sense as one.
   */
  return async (text: string, what: string, save?: () => void): Promise<void> => {
    try {
      await navigator.clipboard.writeText(text)
      view.say(`${what} is in the clipboard.`, save && { action: { label: 'Save as a file', run: save } })
    }
    catch {
      const it = `${what.charAt(0).toLowerCase()}${what.slice(1)}`
      if (!save) return view.say(`This browser does not let pages copy. Select ${it} and copy it by hand.`,
        { tone: 'stop' })
      save()
      view.say(`This browser gives no clipboard: ${it} was saved as a file.`)
    }
  }
}
