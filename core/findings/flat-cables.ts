/** Flat cables between slots that no straight cable joins. */
import type { Assembly } from '../mechanics/assembly'
import { flatCablesOf } from '../mechanics/flat-cables'
import type { Evidence, Finding } from './types'

export const flatCables = ({ facts }: Evidence,
  { bodies }: Assembly): Finding[] => flatCablesOf(facts, bodies).flatMap((cable) => {
  const { partId, name, one, two, isLoose, answer } = cable
  if (answer.fits) return []
  const place = facts.plan.build.places[partId]
  const alike = one.ways === two.ways && one.pitchMm === two.pitchMm
  const finding: Finding = {
    code: 'room.flat', id: `room.flat ${partId}`, severity: 'caution', stages: ['build'],
    title: `No straight flat cable joins ${name} to the board`,
    sentence: alike
      ? answer.reasons.filter(reason => !/^One of the other kind|^\d+ ways/.test(reason)).join(' ')
      : `The board's slot has ${one.ways} ways, ${one.pitchMm} mm apart, and that of ${name} ${two.ways}, `
        + `${two.pitchMm} mm apart. Take a cable that is made to go from one to the other; a straight one goes into `
        + 'one of them only.',
    subjects: [{ partId }],
    // What lies at an angle has as many ways as it should.
    figures: alike ? [] : [{ label: 'ways', value: two.ways, unit: '', limit: one.ways, origin: 'memory' }],
    fixes: alike && !isLoose
      ? [{ label: `Lay ${name} beside the board`,
          edits: [{ edit: 'place-body', id: partId, place: { ...place, on: 'table', xMm: undefined,
            yMm: undefined, turned: undefined } }] }]
      : [],
  }
  return [finding]
})
