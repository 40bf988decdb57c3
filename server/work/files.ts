/** What the board must be told beside its boot file. */
import { evaluateFacts } from '../../core/evaluate'
import type { Facts } from '../../core/facts/types'
import { hostFilesOf } from '../../core/host/bundle'

export const smallFilesJob = (facts: Facts) => hostFilesOf(facts, evaluateFacts(facts).expected)
