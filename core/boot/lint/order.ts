/** Lines in the wrong place: behind an overlay, under a filter, said twice, said both ways. */
import type { Board } from '../../catalogue/types'
import { isOn, newestName, OVERLAYS, overlayNamed, resolveOverlay, SETTING_SPECS } from '../../overlays/library'
import { BASE_PARAMS } from '../../overlays/library/settings'
import { readBoot } from '../dialects/key-value'
import type { Asked, AskedParam, Where } from '../scope/effective'
import { filterKind, filtersOf, MODELS } from '../scope/filters'
import { canonicalParam, ownerOf } from '../scope/ownership'
import { writeNeed } from '../../overlays/asks/write'
import { nearest } from './near'
import type { LintContext, LintFinding, LintRule } from './types'
import {
  commentOut, dropLine, dropParam, findings, fix, found, insertBefore, lineAt, MAX_FINDINGS, quoted, replace, textOf,
} from './words'

const BASE = new Map(BASE_PARAMS.map(param => [param.name, param]))

type AskedOverlay = Extract<Asked, { kind: 'overlay' }>
const overlaysOf = (context: LintContext) =>
  context.effective.asked.filter((asked): asked is AskedOverlay => asked.kind === 'overlay')

/**
 * A parameter of the base tree in the line of an overlay that does not have it: there it is the overlay's own, or lost.
 */
export const scopeOfParameters: LintRule = context => context.files.dialect !== 'key-value'
  ? []
  : overlaysOf(context).flatMap(overlay => overlay.params.flatMap((param): LintFinding[] => {
      if (param.where.line !== overlay.where.line
        || ownerOf(param.name, overlay.name, context.files.overlays) !== 'base') return []
      const value = param.value === '' ? param.name : `${param.name}=${param.value}`
      const { from } = lineAt(context.files, { file: overlay.where.file, line: overlay.where.line })
      const newline = textOf(context.files, overlay.where.file).includes('\r\n') ? '\r\n' : '\n'
      return [found('boot.param-captured', 'caution', param.where, `"${param.name}" stands in the line of an overlay`,
        `Behind a dtoverlay in its line a parameter is taken for that overlay's own. ${overlay.name} has none of that `
        + `name, so ${value} is lost. Give it a dtparam line of its own.`,
        {
          fixes: [{
            label: 'Give it a line of its own', file: param.where.file,
            changes: [...dropParam('', context.files, param.where).changes,
              { from, to: from, insert: `dtparam=${value}${newline}` }],
          }],
        })]
    }))

/** Lines under a heading that this board does not read. */
export const hiddenByFilter: LintRule = (context) => {
  const { files, board, plan } = context
  if (files.dialect !== 'key-value') return []
  const lines = readBoot(files.text, filtersOf(board))
  const needed = new Set(plan?.needs.map(need => writeNeed(need.need)))
  const elsewhere = new Set(lines.filter(line => line.applies === 'always').map(line => line.text.trim()))
  const lastFilter = lines.findLastIndex(line => line.kind === 'filter')
  let before: string | undefined
  return findings(lines, (line, i): LintFinding[] => {
    const kindBefore = before
    if (['setting', 'param', 'overlay', 'filter'].includes(line.kind)) before = line.kind
    const where = { file: '', line: line.number, from: line.from, to: line.from + line.text.length }
    if (line.kind === 'filter') {
      if (filterKind(line.name!) !== 'unknown' || line.name === 'all') return []
      const near = nearest(line.name!, ['all', 'none', ...MODELS, 'tryboot'])
      return [found(
        'boot.filter-unknown', 'caution', where, `The firmware knows no section [${line.name}]`,
        `What stands under it is read by no board${near ? `; [${near}] was probably meant` : ''}.`,
        {
          fixes: [
            ...near ? [replace(`Write [${near}]`, where, `[${near}]`)] : [],
            ...near === 'all' ? [] : [replace('Write [all]', where, '[all]')],
          ],
        },
      )]
    }
    if (line.applies === 'always' || !['setting', 'param', 'overlay'].includes(line.kind)
      || (line.kind === 'overlay' && !line.name)) {
      return []
    }
    if (line.applies === 'sometimes' && !needed.has(line.text.trim())) return []
    // One finding for each heading and stretch, at its first line; every line of it that the plan needs is told
    // by itself.
    const first = kindBefore === 'filter'
    const wanted = needed.has(line.text.trim()) && !elsewhere.has(line.text.trim())
    if (!first && !wanted) return []
    // Sections for other models are how one card serves several boards; only one that hides all that comes after is a
    // likely slip.
    const last = i > lastFilter
    if (!wanted && !last && line.filter !== 'none') return []
    const heading = line.filter === 'none'
      ? '[none] lets no board through'
      : `[${line.filter}] `
        + `${board && line.applies === 'never' ? 'does not let this board through' : 'does not always apply'}`
    return [found('boot.filtered', wanted || (last && line.filter !== 'none')
      ? 'caution'
      : 'note', where, `Line ${line.number} is hidden by [${line.filter}]`,
    `${heading}, so `
    + `${quoted(line.text.trim())}${first && lines[i + 1] && lines[i + 1]!.kind !== 'filter' && lines[i + 1]!.kind !== 'blank'
      ? ' and what follows'
      : ''} `
      + `does nothing here.${wanted ? ' The plan needs it.' : ''}`
      + `${line.filter === 'none' && !wanted ? ' It is kept and not judged.' : ' If it is meant for this board, put [all] before it.'}`,
    {
      fixes: line.filter === 'none' && !wanted ? [] : [insertBefore('Put [all] before it', files, where, '[all]')],
      partIds: wanted
        ? plan!.needs.filter(need => writeNeed(need.need) === line.text.trim())
            .flatMap(need => need.partIds)
        : [],
    })]
  })
}

/** The same said twice, or two things said of one key. */
export const repeated: LintRule = (context) => {
  const { effective, files } = context
  if (files.dialect === 'extlinux') return []
  const repeats: LintFinding[] = []
  const settings = new Map<string, Extract<Asked, { kind: 'setting' }>>()
  const params = new Map<string, Extract<Asked, { kind: 'param' }>>()
  const overlays = new Map<string, AskedOverlay>()
  for (const asked of effective.asked) {
    if (repeats.length >= MAX_FINDINGS) break
    if (asked.kind === 'missing-file' || (asked.applies === 'never' && files.dialect === 'key-value')) continue
    if (asked.kind === 'setting') {
      if (SETTING_SPECS.get(asked.name)?.repeats) continue
      const before = settings.get(asked.name)
      if (before && before.applies === asked.applies
        && !isSame(before, asked)) repeats.push(twice(before, asked, context))
      settings.set(asked.name, asked)
    }
    else if (asked.kind === 'param') {
      const name = canonicalParam(asked.name)
      const before = params.get(name)
      if (before && before.applies === asked.applies
        && !isSame(before, asked)) repeats.push(sameParam(before, asked, context))
      params.set(name, asked)
    }
    else {
      const key = overlayKey(asked)
      const before = overlays.get(key)
      if (before && before.applies === asked.applies && !isSame(before, asked)) {
        repeats.push(found(
          'boot.repeated', 'caution', asked.where, `${asked.name} is loaded twice`,
          `Line ${before.where.line} loads it already with the same parameters. The second time its nodes are laid `
          + 'over the first, or fail as taken. Take one out.',
          { fixes: files.dialect === 'environment'
            ? [dropWord('Take this one out', asked, context)]
            : [dropLine('Take this line out', files, asked.where)] },
        ))
      }
      overlays.set(key, asked)
      repeats.push(...paramTwice(asked, context))
    }
  }
  return repeats
}

/** One line of a file that is included more than once. */
const isSame = (a: { where: Where },
  b: { where: Where }) => a.where.file === b.where.file && a.where.from === b.where.from

function overlayKey(asked: AskedOverlay): string {
  return `${asked.name} ${asked.params.map(param => `${param.name}=${param.value}`).sort().join(',')}`
}

function dropWord(label: string, { where }: AskedOverlay, { files }: LintContext) {
  const text = textOf(files, where.file)
  const before = /[ \t]+$/.exec(text.slice(0, where.from))?.[0].length ?? 0
  return fix(label, where, { from: where.from - before, to: where.to, insert: '' })
}

function paramTwice(overlay: AskedOverlay, { files }: LintContext): LintFinding[] {
  const seen = new Map<string, AskedParam>()
  return overlay.params.flatMap((param): LintFinding[] => {
    const before = seen.get(param.name)
    seen.set(param.name, param)
    if (!before) return []
    return [found(
      before.value === param.value ? 'boot.repeated' : 'boot.contradicts', 'caution', param.where,
      `${overlay.name} is told "${param.name}" twice`,
      before.value === param.value
        ? 'Once is enough.'
        : `Line ${before.where.line} says ${before.value || 'on'}, this one ${param.value || 'on'}: the `
          + 'later one counts.',
      { fixes: [dropParam('Take the first one out', files, before.where)] },
    )]
  })
}

function twice(
  before: Extract<Asked, { kind: 'setting' }>, asked: Extract<Asked, { kind: 'setting' }>, { files }: LintContext,
): LintFinding {
  if (before.value === asked.value) {
    return found(
      'boot.repeated', 'note', asked.where, `${asked.name} is set twice`,
      `Line ${before.where.line} says the same. One is enough.`,
      { fixes: [dropLine('Take this line out', files, asked.where)] },
    )
  }
  return found(
    'boot.contradicts', 'caution', asked.where,
    `${asked.name} is ${before.value} in line ${before.where.line} and ${asked.value} here`,
    `The later one counts: ${asked.name}=${asked.value}. Keep one of the two.`,
    { fixes: [dropLine(`Keep ${asked.value}`, files, before.where),
      dropLine(`Keep ${before.value}`, files, asked.where)] },
  )
}

function sameParam(
  before: Extract<Asked, { kind: 'param' }>, asked: Extract<Asked, { kind: 'param' }>, { files }: LintContext,
): LintFinding {
  const flag = BASE.get(asked.name)?.kind === 'flag'
  const same = flag ? isOn(before.value) === isOn(asked.value) : before.value === asked.value
  const other = before.name === asked.name ? '' : ` (as ${before.name})`
  if (same) {
    return found(
      'boot.repeated', 'note', asked.where, `${asked.name} is set twice`,
      `Line ${before.where.line}${other} says the same. One is enough.`,
      { fixes: [dropParam('Take this one out', files, asked.where)] },
    )
  }
  return found(
    'boot.contradicts', 'caution', asked.where,
    `${asked.name} is ${before.value || 'on'} in line ${before.where.line}${other} and ${asked.value || 'on'} here`,
    `The later one counts: ${asked.value || 'on'}. Keep one of the two.`,
    {
      fixes: [dropParam(`Keep ${asked.value || 'on'}`, files, before.where),
        dropParam(`Keep ${before.value || 'on'}`, files, asked.where)],
    },
  )
}

/** A plan's bus that the file switches off, or an overlay's bus that nothing switches on. */
export const busesOff: LintRule = (context) => {
  const { effective, files, board, plan } = context
  if (files.dialect !== 'key-value') return []
  const on = new Set<string>()
  const off = new Map<string, Extract<Asked, { kind: 'param' }>>()
  for (const asked of effective.asked) {
    if (asked.kind === 'param' && asked.applies === 'always') {
      const enables = BASE.get(asked.name)?.enables
      if (!enables) continue
      if (isOn(asked.value)) {
        on.add(enables)
        off.delete(enables)
      }
      else {
        on.delete(enables)
        off.set(enables, asked)
      }
    }
    if (asked.kind === 'overlay' && asked.applies !== 'never') {
      for (const bus of switchedOnBy(asked)) {
        on.add(bus)
        off.delete(bus)
      }
    }
  }
  const told = new Set<string>()
  return overlaysOf(context).flatMap((asked): LintFinding[] => {
    const spec = overlayNamed(asked.name)
    if (!spec || asked.applies !== 'always') return []
    const { bus } = resolveOverlay(spec, asked.params)
    if (!bus || told.has(bus) || spec.enables?.includes(bus)) return []
    // The plan's own lines switch it on as soon as they are written in; the plan's rule says so.
    if (plan?.needs.some(need => need.busId === bus)) return []
    if (board && !board.controllers.some(controller => controller.id === bus)) {
      told.add(bus)
      return [found(
        'bus.not-on-board', 'caution', asked.where, `${busName(bus)} is not on this board's header`,
        `${asked.name} wants a bus that this board does not bring out. Put the part on another bus.`,
      )]
    }
    if (on.has(bus)) return []
    told.add(bus)
    const line = enablingLine(bus)
    const turnedOff = off.get(bus)
    return [found('bus.never-on', 'caution', turnedOff?.where
      ?? asked.where, `${busName(bus)} is ${turnedOff ? 'switched off' : 'never switched on'}`, `${asked.name} in line `
      + `${asked.where.line} has its part on `
      + `${busName(bus)}${turnedOff ? `, which line ${turnedOff.where.line} switches off` : ', which no line switches on'}: its lines `
      + `are not led out for programs, and on some images the driver finds no bus. Switch it on.`, {
      fixes: turnedOff
        ? [replace(
            'Switch it on',
            { ...turnedOff.where,
              to: turnedOff.where.from + turnedOff.name.length + (turnedOff.value ? 1 + turnedOff.value.length : 0) },
            `${turnedOff.name}=on`,
          )]
        : line
          ? [insertAtBase(`Write ${line}`, context, asked, line)]
          : [],
    })]
  })
}

/**
 * Buses that an overlay switches on: those it is for, and that of its part, where its own tree has the bus
 * with its status.
 */
function switchedOnBy({ name, params }: AskedOverlay): string[] {
  const spec = overlayNamed(name)
  if (!spec) return []
  const { bus } = resolveOverlay(spec, params)
  const byItself = bus && spec.tree && new RegExp(`&(?:\\{bus\\}|${bus}) \\{[^{}]*status = "okay"`).test(spec.tree)
  return [...spec.enables ?? [], ...byItself ? [bus] : []]
}

/** A line for the base tree, put where no overlay swallows it: above the first overlay of its stretch. */
function insertAtBase(label: string, context: LintContext, asked: AskedOverlay, line: string) {
  const first = overlaysOf(context).find(other => other.where.file === asked.where.file && other.applies === 'always')
    ?? asked
  return insertBefore(label, context.files, line.startsWith('dtparam') ? first.where : asked.where, line)
}

export const busName = (bus: string) => bus.replace(/^i2c/, 'I²C ')
  .replace(/^spi/, 'SPI ')
  .replace(/^uart/, 'serial port ')
  .replace(/^i2s$/, 'the sound bus')
  .replace(/^pwm$/, 'the pulse circuit')

/** What switches a bus on. */
export function enablingLine(bus: string): string | null {
  if (bus === 'i2c1') return 'dtparam=i2c_arm=on'
  if (bus === 'i2c0') return 'dtparam=i2c_vc=on'
  if (bus === 'spi0') return 'dtparam=spi=on'
  const name = bus.startsWith('spi') ? `${bus}-3cs` : bus
  if (OVERLAYS.has(name)) return `dtoverlay=${name}`
  return OVERLAYS.has(`${bus}-1cs`) ? `dtoverlay=${bus}-1cs` : null
}

/** An empty `device_tree=` hands the kernel no tree: overlays and parameters change nothing. Memory. */
export const treeOff: LintRule = ({ effective, files }) => {
  if (files.dialect !== 'key-value') return []
  const last = effective.asked.findLast(asked =>
    asked.kind === 'setting' && asked.name === 'device_tree' && asked.applies !== 'never')
  if (last?.kind !== 'setting' || last.value.trim() !== '') return []
  const lost = effective.asked.filter(asked =>
    (asked.kind === 'overlay' || asked.kind === 'param') && asked.applies !== 'never').length
  return lost === 0
    ? []
    : [found(
        'boot.tree-off', 'stop', last.where, 'No tree is handed to the kernel',
        'An empty device_tree= switches the tree off, and with it '
        + `${lost === 1 ? 'the one line' : `all ${lost} lines`} of overlays and parameters in this file: no bus `
        + 'and no driver comes from them. Take the line out, or name a tree.',
        {
          figures: [{ label: 'lines without effect', value: lost, limit: 0, origin: 'memory' }],
          fixes: [commentOut('Make it a comment', files, last.where)],
        },
      )]
}

/**
 * A controller that the board leads out. The small serial port comes out in place of the full one where there is
 * one at all.
 */
const isThere = (board: Board, bus: string) => board.controllers.some(controller => controller.id === bus
  || (bus === 'uart1' && controller.id === 'uart0' && controller.variants?.some(variant => !variant.full)))

/** Overlays for a controller that this board does not lead out, or for another family's. */
export const controllersElsewhere: LintRule = ({ effective, board, files }) => board && files.dialect === 'key-value'
  ? effective.asked.flatMap((asked): LintFinding[] => {
      const spec = asked.kind === 'overlay' && asked.applies === 'always' ? overlayNamed(asked.name) : undefined
      if (!spec || asked.kind !== 'overlay') return []
      const wanted = spec.enables?.filter(bus => /^(uart|spi|i2c)\d+$/.test(bus)) ?? []
      const isElsewhere = wanted.length > 0 && !wanted.some(bus => isThere(board, bus))
      const off = commentOut(`Make line ${asked.where.line} a comment`, files, asked.where)
      const plain = newestName(asked.name)
      // Which family a board of the maker's own is of is not known.
      if (plain && board.bootModels?.length && !board.bootModels.includes('pi5')) {
        const from = textOf(files, asked.where.file).indexOf(asked.name, asked.where.from)
        return [found(
          'overlay.other-family', 'caution', asked.where, `${asked.name} is for the newest family`,
          'Its lines and circuits are those of another chip: on this board it does not go on, and nothing comes '
          + 'of the line.',
          // The plain name helps where the board has what it switches on.
          { fixes: isElsewhere
            ? [off]
            : [replace(`Write ${plain}`, { ...asked.where, from, to: from + asked.name.length }, plain), off] },
        )]
      }
      return isElsewhere
        ? [found(
            'bus.not-on-board', 'caution', asked.where, `${busName(wanted[0]!)} is not on this board`,
            `${asked.name} switches on a controller that this board's chip does not lead out: nothing comes of the `
            + 'line. Other boards have it.',
            {
              fixes: [off],
              figures: [{ label: 'controllers', value: wanted.join(', '), limit: 'none of them here',
                origin: 'board file' }],
            },
          )]
        : []
    })
  : []
