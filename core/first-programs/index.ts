/** Small programs for each part of a plan and for the plan as a whole, with how to start them and what must be seen. */
import { cautionsOf } from '../catalogue/cautions'
import type { ResolvedPart } from '../facts/types'
import type { Bench } from '../diagnosis/table'
import { STIMULI } from '../bringup/readings'
import { reachedParts, type Access } from './access'
import { cPrograms } from './c'
import { controllerCpp, controllerPython, isController } from './controller'
import { pythonPrograms } from './python'
import { seenBySerial } from './serial'
import { shellPrograms } from './shell'
import { spiProgramOf } from '../catalogue/programs'
import type { ProgramAim, ProgramLanguage, ProgramText, SmallProgram, SmallPrograms } from './types'
import { wholePrograms } from './whole'

export type * from './types'

export const LANGUAGES: Readonly<Record<ProgramLanguage, { name: string, ending: string }>> = {
  python: { name: 'Python', ending: '.py' }, c: { name: 'C', ending: '.c' }, shell: { name: 'Shell', ending: '.sh' },
  cpp: { name: 'C++, on the microcontroller', ending: '.cpp' },
  micropython: { name: 'MicroPython, on the microcontroller', ending: '.py' },
}

export const AIMS: Readonly<Record<ProgramAim, string>> = {
  read: 'Read it', watch: 'Watch it', move: 'Move it', show: 'Show something on it', loopback: 'Loopback of its port',
  link: 'Talk with it',
  serve: 'Readings served as JSON', fan: 'Fan by threshold', shutdown: 'Shutdown button',
}

/** Commands that start a program of a language. */
function startOf(language: ProgramLanguage, file: string, words: string): string[] {
  const given = words && ` ${words}`
  switch (language) {
    case 'python': return [`python3 ${file}${given}`]
    case 'shell': return [`sh ${file}${given}`]
    case 'c': return [`gcc -O1 -o ${file.replace(/\.c$/, '')} ${file}`, `./${file.replace(/\.c$/, '')}${given}`]
    case 'cpp': return ['Load it onto the microcontroller by its USB plug.']
    case 'micropython': return [`Copy it onto the microcontroller as main.py and restart it.`]
  }
}

/** What a program is for, in the words of its part. */
function titleOf(owner: ResolvedPart, access: Access, aim: ProgramAim, language: ProgramLanguage): string {
  if (access.by === 'spi') return spiProgramOf(owner.part.id)!.title
  if (access.by === 'sound') return access.plays ? 'Play on it' : 'Listen with it'
  const asksOnly = access.by === 'i2c' && aim === 'read' && (language === 'shell' || !access.recipe?.values.length)
  return asksOnly ? 'See whether it is there' : AIMS[aim]
}

/** What is seen while a program runs. */
function seenWith(owner: ResolvedPart, access: Access, aim: ProgramAim, language: ProgramLanguage): string[] {
  const stimuli = (owner.part.reads ?? []).map(what => STIMULI[what])
  switch (access.by) {
    case 'i2c': {
      if (aim === 'show') return ['Eight steps of light, from the left edge down to the right one.']
      return access.recipe?.values.length && language !== 'shell'
        ? [`A line with ${access.recipe.values.map(({ label }) => label).join(', ')}.`, ...stimuli]
        : ['It says that the part is '
          + `there.${access.recipe?.values.length ? '' : ' What is in its registers is not known here.'}`]
    }
    case 'files': case 'probes': case 'scale': case 'echo':
      return ['A line with each reading; none is far from what is really there.', ...stimuli]
    case 'clock': return [language === 'shell'
      ? 'Two times that differ by a second or two at most, once the clock was set (hwclock -w).'
      : 'The time in UTC; beside it "date -u" gives that of the system. hwclock -w sets the clock by it.']
    case 'out': return [
      `${access.lines.map(({ label }) => label).join(', ')}, each for a second: a click, a lamp, or the `
      + 'thing itself moves.',
      'Nothing but the one that is named moves.', ...access.left.map(why => `Left out: ${why}`),
    ]
    case 'in': return [
      language === 'shell'
        ? 'A row of figures each second; one of them turns over while something is pressed or moves.'
        : 'At rest first; each press or movement says "active", and "at rest" when it ends.',
      ...access.left.map(why => `Left out: ${why}`)]
    case 'pulses': return [`It goes to ${access.duties.map(({ label }) => label).join(', ')}, and rests.`]
    case 'serial': return aim === 'loopback'
      ? ['"all 256 bytes came back". With the join taken off again nothing comes back.']
      : [seenBySerial(owner.part)]
    case 'pixels': return ['A dim point runs along all pixels, red, green and blue; then all are dark.']
    case 'spi': return [spiProgramOf(owner.part.id)!.see]
    case 'events': return ['A line for each key or touch.']
    case 'sound': return [access.plays
      ? 'A voice says "front left" left and "front right" right.'
      : 'The bar grows when you speak.']
  }
}

/** The programs of a plan. Law: what they have of lines, addresses and ports is what the plan says. */
export function smallProgramsOf(bench: Bench): SmallPrograms {
  const programs: SmallProgram[] = []
  const without: SmallPrograms['without'] = []
  const parts = reachedParts(bench)
  for (const { owner, reached } of parts) {
    if (reached.by === 'nothing') {
      without.push({ partId: owner.id, name: owner.name, why: reached.why })
      continue
    }
    const file = (language: ProgramLanguage) => (aim: string) =>
      `${owner.id}-${aim}${language === 'micropython' ? '-controller' : ''}${LANGUAGES[language].ending}`
    const made: [ProgramLanguage, ProgramText[]][] = [
      ['python', pythonPrograms(owner, reached, file('python'))], ['c', cPrograms(owner, reached, file('c'))],
      ['shell', shellPrograms(owner, reached, file('shell'))],
      ...reached.by === 'serial' && isController(owner)
        ? [['cpp', [controllerCpp(owner, reached)]],
          ['micropython', [controllerPython(owner, reached)]]] satisfies [ProgramLanguage,
            ProgramText[]][]
        : [],
    ]
    for (const [language, list] of made) for (const { aim, text, arguments: words } of list) programs.push({
      file: file(language)(aim), partId: owner.id, aim, language, title: titleOf(owner, reached, aim, language), text,
      start: startOf(language, file(language)(aim), words),
      see: seenWith(owner, reached, aim, language),
      cautions: aim === 'move' ? cautionsOf(owner.part) : [],
    })
  }
  programs.push(...wholePrograms(bench, parts))
  return { programs, without }
}
