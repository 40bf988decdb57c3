/** Light strips whose far end gets too little: the voltage falls along their own tracks. */
import { stateNamed } from '../../power/states'
import { stripDropV } from '../../signals/strip-feed'
import type { Finding, Fix, Rule } from '../types'
import { limitOf, nodeSubject, v, volts } from './words'

export const stripDrops: Rule = ({ facts, power }) => facts.parts.flatMap((owner): Finding[] => {
  const { strip } = owner.part
  const supply = owner.supplies[0]
  const node = supply && power.tree.byId.get(`${owner.id}.${supply.id}`)
  if (!strip?.ohmPerPixel || !node?.from.length) return []
  const peak = stateNamed(power.states, 'peak').nodes[node.id]!
  const pixels = Number(owner.options[strip.pixelsOption]) || 1
  const min = node.figures.leastV!
  const both = strip.fedOption !== undefined && owner.options[strip.fedOption] === 'both'
  const fall = (atBoth: boolean,
    share = 1) => stripDropV(pixels, peak.currentMa / pixels * share, strip.ohmPerPixel!, atBoth)
  const ends = peak.voltageV - fall(both)
  // What already comes too low to its beginning is its feed's matter.
  if (peak.currentMa <= 0 || peak.voltageV < min.value || ends >= min.value) return []
  const share = (peak.voltageV - min.value) / fall(both)
  const { percentOption } = supply!
  const now = percentOption ? Number(owner.options[percentOption]) || 100 : 100
  const percent = Math.floor(now * share)
  const fixes: Fix[] = [
    ...strip.fedOption && !both && peak.voltageV - fall(true) >= min.value
      ? [{
          label: `Feed it at both ends: ${volts(peak.voltageV - fall(true))} in its middle`,
          edits: [{ edit: 'set-option' as const, id: owner.id, option: strip.fedOption, value: 'both' }],
        }]
      : [],
    ...percentOption && percent >= 1
      ? [{
          label: `At most ${percent} % bright`,
          edits: [{ edit: 'set-option' as const, id: owner.id, option: percentOption, value: String(percent) }],
        }]
      : [],
  ]
  return [{
    code: 'strip.drop', id: `strip.drop ${owner.id}`, severity: 'caution', stages: ['power', 'wiring', 'build'],
    title: `${volts(ends)} are left at ${both ? 'the middle' : 'the end'} of ${owner.name}`,
    sentence: `All white, ${volts(peak.voltageV)} come to its beginning and ${volts(fall(both))} are lost along its ${pixels} pixels: the `
      + `last ones turn yellow, then red, and may drop out. ${both
        ? 'Feed it in the middle too, or let it be less bright.'
        : 'Lead the supply to its other end as well, or let it be less bright.'}`,
    subjects: [nodeSubject(node)],
    figures: [
      { label: both ? 'in its middle' : 'at its end', value: v(ends), unit: 'V', ...limitOf(node, 'leastV') },
      { label: 'from pixel to pixel', value: strip.ohmPerPixel * 1000, unit: 'mΩ', origin: strip.origin },
    ],
    fixes,
  }]
})
