/** Controllers asked for two things at once. */
import type { Finding, Rule } from './types'

/** One PWM channel feeds two outputs, or one controller is brought out in two places. */
export const controllerTwice: Rule = ({ facts }) => facts.buses.filter(bus => bus.controller)
  .flatMap((bus): Finding[] => {
    const groups = facts.groups.filter(group => group.bus?.id === bus.id)
    const exclusive = bus.kind === 'pwm' || bus.kind === 'serial'
      || groups.some(group => group.terminals[0]!.signal!.role === 'strip')
    const ways = new Set(groups.map(group => group.bus!.route))
    if (groups.length < 2 || (!exclusive && ways.size < 2)) return []
    // On one and the same position the claim itself is the finding.
    const positions = groups.map(group => group.terminals.map(terminal =>
      terminal.place?.kind === 'header' ? terminal.place.position : 0)
      .join())
    if (new Set(positions).size < groups.length && ways.size < 2) return []
    const names = groups.map(group => group.owner.name).join(' and ')
    const pwm = bus.kind === 'pwm'
    return [{
      code: pwm ? 'pwm.channel-shared' : 'controller.two-ways', id: `controller.twice ${bus.id}`,
      severity: pwm ? 'caution' : 'stop',
      stages: ['wiring'],
      title: `${bus.label} serves two things`,
      sentence: pwm
        ? `${names} use one channel: both get the same frequency and the same duty. Move one to the other channel.`
        : `${names} both ask for ${bus.label}, which comes out in one place for one of them at a time. Move `
          + 'one to another bus.',
      subjects: groups.map(group => ({ partId: group.owner.id, terminal: group.terminals[0]!.key, busId: bus.id })),
      figures: [{ label: 'asked', value: groups.length, limit: 1, origin: 'board file' }],
      fixes: groups.map(group => ({
        label: `Release ${group.owner.name}`,
        edits: group.terminals.map(terminal => ({ edit: 'release' as const, terminal: terminal.key })),
      }))
        .reverse(),
    }]
  })
