/** The demo projects: made up, each with a story of its own. */
import { completed } from '../core/plan/create'
import type { Plan } from '../core/plan/types'
import beehive from './beehive-monitor.json'
import signalBox from './signal-box.json'
import kiosk from './tool-library-kiosk.json'

export const demoPlans: Plan[] = ([beehive, signalBox, kiosk] as unknown as Plan[]).map(completed)
