/** The demo projects: made up, each with a story of its own. */
import type { Plan } from '../core/plan/types'
import beehive from './beehive-monitor.json'
import signalBox from './signal-box.json'
import kiosk from './tool-library-kiosk.json'

export const demoPlans = [beehive, signalBox, kiosk] as unknown as Plan[]
