/** Two outputs on one wire: what a part drives, and what the files let the board drive. */
import { portOf } from './kernel'
import type { LintFinding, LintRule } from './types'
import { dropLine, dropWord, found, replace } from './words'

/** Lines of a `gpio` setting: `4-6,12=op,dh` names 4, 5, 6 and 12. Anything else in the list names none. */
export function linesSet(value: string): { lines: number[], words: string[] } {
  const [list = '', words = ''] = value.split('=', 2)
  const lines = list.split(',').flatMap((entry) => {
    const [, from, to] = /^\s*(\d+)(?:-(\d+))?\s*$/.exec(entry) ?? []
    if (from === undefined) return []
    const first = Number(from)
    const last = Math.min(Number(to ?? from), first + 63)
    return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i)
  })
  return { lines, words: words.split(',').map(word => word.trim()) }
}

/** `gpio=17=op` on a line that a part drives as well. */
export const linesDrivenTwice: LintRule = ({ files, effective,
  plan }) => effective.asked.flatMap((asked): LintFinding[] => {
  if (asked.kind !== 'setting' || asked.name !== 'gpio' || asked.applies === 'never' || !plan) return []
  const { lines, words } = linesSet(asked.value)
  if (!words.includes('op')) return []
  return lines.flatMap((line): LintFinding[] => {
    const output = plan.outputs.get(line)
    if (!output) return []
    return [found('contention.line-set', asked.applies === 'always'
      ? 'stop'
      : 'caution', asked.where, `The board and ${output.name} both drive line ${line}`,
    `This setting makes line ${line} an output from the first moment, and ${output.serves} of ${output.name} is an `
    + 'output too: whenever the two differ, current flows from one into the other and one of them is damaged. Make the '
    + 'line an input.',
    {
      partIds: [output.partId], figures: [{ label: 'outputs on one wire', value: 2, limit: 1, origin: 'practice' }],
      fixes: lines.length === 1
        ? [replace(`Write gpio=${line}=ip`, asked.where, `gpio=${line}=ip`),
            dropLine('Take the line out', files, asked.where)]
        : [dropLine('Take the line out', files, asked.where)],
    })]
  })
})

/** The kernel's console transmits where a part drives. */
export const consoleAgainstOutput: LintRule = ({ board, effective, files, plan }) => {
  if (!board || !plan) return []
  return effective.words.flatMap((word): LintFinding[] => {
    const device = word.name === 'console' ? word.value?.split(',')[0]?.replace(/^\/dev\//, '') : undefined
    const bus = device === undefined ? undefined : portOf(device, board)
    if (bus === undefined || plan.buses.has(bus)) return []
    const line = board.controllers.find(({ id }) => id === bus)?.routes[0]?.lines.tx
    const output = line === undefined ? undefined : plan.outputs.get(line)
    if (!output) return []
    return [found('contention.console', 'stop', word.where, `The console and ${output.name} both drive line ${line}`,
      `The kernel writes its console to ${device}, which transmits on line ${line}, and ${output.serves} of `
      + `${output.name} is an output on the same wire: current flows from one into the other and one of them is `
      + 'damaged. Let the console go, or move the part to another line.',
      {
        partIds: [output.partId], figures: [{ label: 'outputs on one wire', value: 2, limit: 1, origin: 'practice' }],
        fixes: [dropWord('Let the console go', files, word.where)],
      })]
  })
}
