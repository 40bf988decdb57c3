/** All small files of a plan, each as it should lie on the board, with the script that puts them there. */
import type { Facts } from '../facts/types'
import { applyScript, isForCard } from './apply'
import { groupsFor, switchedOn, type Nodes, type SwitchedOn } from './asks'
import { hostBudgets } from './budgets'
import { smallFilesOf } from './index'
import { ownedText, type OwnedText } from './owned'
import { textOf, type SmallFile } from './types'

export interface FileNow extends SmallFile, OwnedText {
  /** As the plan alone would have it. */
  planned: string
}

export interface HostFiles {
  files: FileNow[]
  groups: string[]
  switchedOn: SwitchedOn[]
  budgets: ReturnType<typeof hostBudgets>
  /** Empty where nothing lies on the running board. */
  script: string
}

export function hostFilesOf(facts: Facts, expected: Nodes): HostFiles {
  const groups = groupsFor(facts, expected)
  const { files: there } = facts.plan.host
  const files = smallFilesOf(facts, expected).map((file): FileNow => {
    const planned = textOf(file)
    return { ...file, planned, ...ownedText(planned, Object.hasOwn(there, file.path) ? there[file.path] : undefined) }
  })
  // The script carries what should lie there, lines of somebody's own included.
  const asTheyLie = files.map(file => ({ ...file,
    rows: file.text.replace(/\n$/, '').split('\n').map(line => [line, ''] as const) }))
  return {
    files, groups, switchedOn: switchedOn(facts), budgets: hostBudgets(facts),
    script: files.some(file => !isForCard(file)) ? applyScript(asTheyLie, facts, groups) : '',
  }
}

/** Name of a small file in a folder or a zip: its path on the board, from the root or the home folder. */
export const nameInBundle = ({ path }: SmallFile): string => path.replace(/^~\//, 'home/').replace(/^\//, '')
