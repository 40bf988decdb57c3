/** Commands and texts as the formats want them written. */

/** A command by words: blanks part them, quotes keep them together. Null where a quote is left open. */
export function wordsOfCommand(command: string): string[] | null {
  const words: string[] = []
  let word: string | null = null
  let quote = ''
  for (let i = 0; i < command.length; i++) {
    const sign = command[i]!
    if (quote) {
      if (sign === quote) quote = ''
      else if (sign === '\\' && quote === '"' && i + 1 < command.length) word = (word ?? '') + command[++i]!
      else word = (word ?? '') + sign
    }
    else if (sign === '"' || sign === '\'') {
      quote = sign
      word ??= ''
    }
    else if (sign === '\\' && i + 1 < command.length) word = (word ?? '') + command[++i]!
    else if (/\s/.test(sign)) {
      if (word !== null) words.push(word)
      word = null
    }
    else word = (word ?? '') + sign
  }
  if (quote) return null
  return word === null ? words : [...words, word]
}

/** True where a command is more than words: pipes, redirections, variables, lists. */
export const needsShell = (command: string): boolean => /[|&;<>`$*?~]|\n/.test(command.replace(/'[^']*'/g, ''))

/** One word of `ExecStart`. published: systemd.service(5), command lines; systemd.syntax(7), quoting */
export function serviceWord(word: string): string {
  const plain = word.replaceAll('%', '%%').replaceAll('$', '$$$$')
  return /^[A-Za-z0-9_@%+=:,./$-]+$/.test(plain) ? plain : `"${plain.replace(/[\\"]/g, match => `\\${match}`)}"`
}

/** One word of `Exec`. published: freedesktop Desktop Entry Specification 1.5, the Exec key */
export function desktopWord(word: string): string {
  const plain = word.replaceAll('%', '%%')
  if (plain !== '' && !/[\s"'\\><~|&;$*?#()`]/.test(plain)) return plain
  // Quoted by the rules of the key, then once more as any value is escaped.
  return `"${plain.replace(/["`$\\]/g, match => `\\${match}`)}"`.replaceAll('\\', '\\\\')
}

/** A plain scalar of YAML where it can be one, else in double quotes. published: YAML 1.2.2, chapter 7 */
export const yamlText = (text: string): string => /^[A-Za-z][A-Za-z0-9_./-]*$/.test(text)
  && !/^(true|false|null|yes|no|on|off|y|n)$/i.test(text)
  ? text
  : JSON.stringify(text)

/** A word for a shell. */
export const shellWord = (word: string): string =>
  /^[A-Za-z0-9_@%+=:,./-]+$/.test(word) ? word : `'${word.replaceAll('\'', `'\\''`)}'`
