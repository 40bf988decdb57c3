/** What else the board must be told: every small file of a plan, made from it. */
import type { Facts } from '../facts/types'
import { groupsFor, type Nodes } from './asks'
import { firstBoot, fixedAddress, networkConfig } from './first-boot'
import { keySymbols } from './matrix'
import { desktopEntry, screenKeys, service } from './programs'
import { powerKey, soundLimits, usbNames } from './system'
import type { SmallFile } from './types'

/** In the order in which they are needed. Paths are unique. */
export function smallFilesOf(facts: Facts, expected: Nodes): SmallFile[] {
  const groups = groupsFor(facts, expected)
  const { runs } = facts.plan.host
  const files = [
    firstBoot(facts, groups), networkConfig(facts), fixedAddress(facts), usbNames(facts),
    ...runs.filter(run => run.how === 'service').map(run => service(run, facts, groups)),
    ...runs.filter(run => run.how !== 'service').map(run => desktopEntry(run, facts)),
    screenKeys(facts), soundLimits(facts), powerKey(facts), ...keySymbols(facts),
  ].filter(file => file !== null)
  return files.filter((file, i) => files.findIndex(other => other.path === file.path) === i)
}
