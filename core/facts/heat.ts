/**
 * What the load test runs with: the case and the cooler that are in the plan; where there is none, what the
 * maker tries there.
 */
import { misfitOf } from '../catalogue/things'
import type { Board } from '../catalogue/types'
import type { FanControl, HeatPlan } from '../plan/power'
import { isMet } from './conditions'
import type { Facts, HeatFacts, ResolvedPart } from './types'

/** A fan that is switched: where the plan has no threshold of its own, these. practice */
export const USUAL_THRESHOLD = { onC: 60, hysteresisC: 10 }

/** What the board does by itself with a fan on its own socket: speed in percent from each temperature up. memory */
export const BOARD_FAN: Extract<FanControl, { mode: 'curve' }> = {
  mode: 'curve', hysteresisC: 5,
  points: [
    { temperatureC: 50, percent: 30 }, { temperatureC: 60, percent: 50 }, { temperatureC: 67, percent: 70 },
    { temperatureC: 75, percent: 100 },
  ],
}

/**
 * Joins the setting of the load test with the things of the plan. A figure that was typed or measured is of the cooler
 * that the setting names: beside another one in the plan it does not count. What is made for another board does not go
 * on and does not count either.
 */
export function heatFacts(setting: HeatPlan, board: Board | null, parts: readonly ResolvedPart[]): HeatFacts {
  const fitting = parts.filter(({ part }) => misfitOf(part, board) === null)
  const cooler = fitting.find(({ part }) => part.thing?.cooler !== undefined) ?? null
  const enclosure = fitting.find(({ part }) => part.thing?.enclosure !== undefined) ?? null
  const fan = board?.sockets.fan
    ? parts.find(({ part, options }) =>
      part.plugs?.some(({ socket, when }) => socket === 'fan' && isMet(when, options))) ?? null
    : null
  const is = cooler?.part.thing!.cooler ?? setting.cooler
  const { coolerKw, measured, ...others } = setting
  return {
    set: {
      ...others, cooler: is, enclosure: enclosure?.part.thing!.enclosure ?? setting.enclosure,
      ...fan && setting.fan.mode === 'none' && { fan: BOARD_FAN },
      ...is === setting.cooler && coolerKw !== undefined && { coolerKw },
      ...is === setting.cooler && measured !== undefined && { measured },
    },
    cooler, enclosure, fan,
  }
}

/**
 * The setting to keep with a figure of the cooler itself, typed or measured: it names the cooler that the figure is of.
 */
export const heatWithFigure = (
  { plan, heat }: Pick<Facts, 'plan' | 'heat'>, figure: Pick<HeatPlan, 'coolerKw' | 'measured'>,
): HeatPlan => ({ ...plan.power.heat, cooler: heat.set.cooler, coolerKw: undefined, measured: undefined, ...figure })
