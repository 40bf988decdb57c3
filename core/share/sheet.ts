/**
 * A plan as one page that stands by itself: opens in any browser, prints black on white, and carries the plan for
 * whoever has Voltaris.
 */
import { hexAddress } from '../bringup/grid'
import { priceOf } from '../construction/parts-list'
import { railAsSvg } from '../construction/rail'
import type { Report } from '../evaluate'
import type { Facts } from '../facts/types'
import { countsInWords } from '../findings/counts'
import { isOpen } from '../findings/set-aside'
import { hostFilesOf, type FileNow } from '../host/bundle'
import { writePlanText } from '../plan/text-of'
import { escapeMarkup as escape } from '../documents/markup'

/** Marks the plan in the page. */
const PLAN_ID = 'voltaris-plan'

const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string => rows.length
  ? `<table><thead><tr>${head.map(cell => `<th scope="col">${escape(cell)}</th>`).join('')}</tr></thead><tbody>${rows
    .map(row => `<tr>${row.map(cell => `<td>${escape(String(cell))}</td>`).join('')}</tr>`).join('')}</tbody></table>`
  : '<p>Nothing.</p>'

const paragraph = (text = ''): string => text ? `<p>${escape(text).replaceAll('\n', '<br>')}</p>` : ''

const CAUTION = 'Mains voltage and large batteries are for people who are licensed for them; local rules go first.'

const STYLE = `body{font:15px/1.45 system-ui,sans-serif;color:#000;background:#fff;max-width:1040px;margin:24px auto;padding:0 16px}
h1{font-size:24px}h2{font-size:17px;border-bottom:1px solid #000;margin-top:28px}table{border-collapse:collapse;width:100%}
th,td{text-align:left;border-bottom:1px solid #999;padding:3px 10px 3px 0;vertical-align:top;overflow-wrap:anywhere}
pre{background:#f3f3f3;padding:8px;overflow-wrap:anywhere;white-space:pre-wrap}svg{max-width:100%;height:auto}
.stop::before{content:"STOP  ";font-weight:700}.caution::before{content:"Caution  ";font-weight:700}li{margin:4px 0;overflow-wrap:anywhere}
@media print{body{margin:0;max-width:none}h2{break-after:avoid}tr,li{break-inside:avoid}}`

function totalInWords(items: Report['partsList']): string {
  const { total, unknown } = priceOf(items)
  return total ? `About ${total} together, made-up prices${unknown ? `; ${unknown} without a price` : ''}.` : ''
}

const AFTER_WORDS = { 'first start': 'read at the very first start only', 'restart': 'counts after a restart',
  'new login': 'counts after a new login' }

const smallFile = ({ what, path, owner, mode, after, secret, text }: FileNow): string => `<h3>${escape(what)}</h3><p>${
  escape(`${path}, owned by ${owner}, mode ${mode}; ${after.is === 'reload' ? `then ${after.command}` : AFTER_WORDS[after.is]}.`)}${
  secret ? ` ${escape(secret)}` : ''}</p><pre>${escape(text)}</pre>`

/** The page, as HTML without any script that runs and without anything fetched. `madeAt` is an ISO 8601 time. */
export function sheetOf(facts: Facts, report: Report, madeAt: string, colourOf: (partId: string) => string): string {
  const { plan, board, supply } = facts
  const open = report.findings.filter(isOpen)
  const aside = report.findings.filter(finding => !isOpen(finding))
  const list = (findings: typeof open) => findings.map(finding =>
    `<li class="${finding.severity}"><b>${escape(finding.title)}.</b> ${escape(finding.sentence)}${finding.aside
      ? ` <i>Set aside: ${escape(finding.aside.reason)}</i>`
      : ''}</li>`).join('')
  const { stops, cautions, notes } = report.counts
  const { files } = hostFilesOf(facts, report.expected)
  const sections: [string, string][] = [
    ['What it is', paragraph(plan.story) + paragraph(plan.notes)
    + table(['', ''], [
      ['Board', board?.name ?? 'none yet'], ['Supply', supply ? `${supply.name}, ${supply.voltageV} V` : 'none yet'],
      ['Lines held', `${report.lines.used} of ${report.lines.available}`],
      ...report.power.rails.filter(rail => rail.peakMa > 0).map(({ rail, peakMa, availableMa }) => [
        `${rail} rail at peak`,
        `${Math.round(peakMa)} mA${availableMa === null ? '' : ` of ${Math.round(availableMa)}`}`,
      ]),
      ['Judged', countsInWords(stops, cautions, notes)
      + (aside.length ? `, ${aside.length} set aside` : '')],
    ])],
    ...open.length || aside.length ? [['Findings', `<ul>${list(open)}${list(aside)}</ul>`] as [string, string]] : [],
    ['Header', board ? railAsSvg(facts, colourOf) : '<p>No board yet.</p>'],
    ['Wires, in the order of connecting', '<p>Supply unplugged while you wire; it goes in last.</p>' + table(
      ['', 'Part', 'From', 'To', 'Through', 'Colour', 'cm'],
      report.wires.map((wire, i) => [
        i + 1, wire.partName, wire.from, wire.to, wire.through ?? '', wire.colour,
        wire.lengthM ? Math.round(wire.lengthM * 100) : '',
      ]),
    )],
    ['What lies on the table', table(['Count', 'What', 'For', 'm', 'each'], report.partsList.map(item => [
      item.count, item.what, item.names.filter(name => name !== item.what).join(', '), item.lengthM ?? '',
      item.price ?? '',
    ])) + paragraph(totalInWords(report.partsList))],
    ['Boot file', `<pre>${escape(report.boot.text || '(nothing)')}</pre>`],
    ...files.length ? [['Other files', files.map(smallFile).join('')] as [string, string]] : [],
    ['What answers on I²C', table(['Bus', 'Address', 'Part'], report.expected.addresses.map(entry => [
      entry.busId, hexAddress(entry.address), entry.names.join(' and '),
    ]))],
    ...plan.log.length
      ? [['Logbook', table(
          ['When', 'Stage', 'What'],
          plan.log.map(entry => [entry.at.slice(0, 16).replace('T', ' '), entry.stage, entry.text]),
        )] as [string, string]]
      : [],
  ]
  // Nothing in the plan can end the element it stands in.
  const carried = writePlanText(plan).replaceAll('<', '\\u003c')
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">
<title>${escape(plan.name)}</title><style>${STYLE}</style></head><body>
<h1>${escape(plan.name)}</h1><p>As it stood on ${escape(madeAt.slice(0, 10))}. ${CAUTION}</p>
${sections.map(([title, body]) => `<section><h2>${escape(title)}</h2>${body}</section>`).join('\n')}
<script type="application/json" id="${PLAN_ID}">${carried}</script>
</body></html>
`
}

/** The text of the plan that a page carries; null where there is none. */
export function planTextOfSheet(html: string): string | null {
  const start = html.indexOf(`id="${PLAN_ID}">`)
  if (start < 0) return null
  const from = start + `id="${PLAN_ID}">`.length
  const end = html.indexOf('</script>', from)
  return end < 0 ? null : html.slice(from, end)
}
