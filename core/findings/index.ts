/** All rules, in one list: adding a rule is adding it here. */
import { baseTree, bootNeeds, darkParts, fileLines, otherBaseTree } from './bootfile'
import { controllerTwice } from './buses'
import { addressClash, claimedTwice, functionUnavailable, linesExceeded, reservedUsed } from './claims'
import { optionsOff, reservedAddress, sharedPositions, strayKeys, unknownEntries, unplaced } from './document'
import { clockSense, fanSense, throttles } from './power/heat'
import { acFrontEnd, acStraight, capacitorVoltage, holdUp, mainsCaution } from './power/fronts'
import { groundMissing, batteryBeside, pastTheFuse, powerProblems, twoSources } from './power/joins'
import { fuses, unprotectedWires } from './power/fuses'
import { converters, overRating } from './power/paths'
import { backFed } from './power/backfeed'
import { groundShift } from './power/ground-shift'
import { hubs } from './power/hubs'
import { networkClass, vehicleSupply } from './power/special'
import { stripDrops } from './power/strips'
import { plugAtSocket } from './power/plugs'
import { boardsWish, railsOver, smallSupplyUsb, sourcesAsked } from './power/sources'
import { bankSwitchesOff, packTooSmall, storeCautions, weekRunsDry } from './power/stores'
import { brownOut, loadVoltages, railOverVoltage, underVoltage } from './power/voltages'
import { fixedAddressFits, keysTwice, likeThingsSwap, memoryAndCard, remoteOpen, runsStart } from './host'
import { buildOrder, mountHolds } from './order'
import { roomTaken } from './room'
import { lastScans } from './scans'
import { drivenStraight, lineCurrent, movesAtStart, pullsAgainst, stageTooWeak } from './signals/currents'
import { busTime, busTooFast, pullUps, stretching } from './signals/i2c'
import {
  dividerEdges, levelAnalog, levelAtBoard, levelAtPart, levelNegative, pulledTooHigh, pullMissing, shifterFit,
} from './signals/levels'
import { keyGhosts, oneWireLine, pwmChannels, soundRates, spiClocks, strips, tellingLines } from './signals/pulses'
import { serialFlow, serialFrames, serialRates } from './signals/serial'
import { coveredPositions, stackFit, stackOrder } from './stack'
import {
  adaptersMissing, cardFit, dataSocket, headerMissing, headerShut, imageTooOld, otherOutline, thingTwice, thingUseless,
  underLid,
} from './things'
import { relayContacts, unattended } from './contacts'
import { sockets, widePlugs } from './sockets'
import { GRAVITY } from '../vocabulary/finding'
import type { Evidence, Finding, Rule } from './types'

const RULES: readonly Rule[] = [
  unknownEntries, optionsOff, strayKeys,
  claimedTwice, functionUnavailable, reservedUsed, addressClash, reservedAddress, controllerTwice, linesExceeded,
  levelAtBoard, levelNegative, levelAnalog, levelAtPart, pulledTooHigh, pullMissing, shifterFit, dividerEdges,
  drivenStraight, stageTooWeak, lineCurrent, movesAtStart, pullsAgainst,
  pullUps, busTooFast, busTime, stretching, serialRates, serialFrames, serialFlow, spiClocks, pwmChannels, strips,
  soundRates, oneWireLine,
  tellingLines, keyGhosts,
  stackOrder, stackFit, coveredPositions,
  powerProblems, railOverVoltage, acStraight, twoSources, backFed, batteryBeside, plugAtSocket, brownOut, sourcesAsked,
  boardsWish,
  railsOver,
  smallSupplyUsb, underVoltage, loadVoltages,
  overRating, fuses, unprotectedWires, converters, hubs, stripDrops, vehicleSupply, networkClass, groundMissing,
  groundShift, pastTheFuse,
  acFrontEnd, holdUp, capacitorVoltage,
  packTooSmall, bankSwitchesOff, weekRunsDry, storeCautions, throttles, fanSense, clockSense, mainsCaution,
  otherOutline, underLid, headerShut, headerMissing, adaptersMissing, dataSocket, imageTooOld, cardFit, thingTwice,
  thingUseless,
  sockets, widePlugs, relayContacts, unattended,
  bootNeeds, fileLines, darkParts, baseTree, otherBaseTree,
  fixedAddressFits, runsStart, likeThingsSwap, remoteOpen, keysTwice, memoryAndCard,
  roomTaken, buildOrder, mountHolds,
  lastScans, unplaced, sharedPositions,
]

/** Every finding, stops first, otherwise in the order of the rules and of the plan. */
export function judge(evidence: Evidence): Finding[] {
  const findings = RULES.flatMap(rule => rule(evidence))
  return findings.map((finding, i) => ({ finding, i }))
    .sort((a, b) => GRAVITY[a.finding.severity] - GRAVITY[b.finding.severity] || a.i - b.i)
    .map(({ finding }) => finding)
}

export type { Finding, Severity } from './types'
