/** Generated device trees, as values and as sources, and the reference programs of Debian (`dtc`, `fdtoverlay`). */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import type { DeviceTree, TreeNode } from '../core/devicetree/types'

const folder = mkdtempSync(join(tmpdir(), 'voltaris-dt-'))
let files = 0
const put = (content: string | Uint8Array, ending: string) => {
  const file = join(folder, `f${files++}${ending}`)
  writeFileSync(file, content)
  return file
}

/** reference program: dtc compiles a source. Throws with what it printed. */
export function dtcCompile(source: string, symbols = false): Uint8Array {
  const out = join(folder, `f${files++}.dtb`)
  execFileSync(
    '/usr/bin/dtc', ['-q', ...symbols ? ['-@'] : [], '-I', 'dts', '-O', 'dtb', '-o', out, put(source, '.dts')],
    { stdio: 'pipe' },
  )
  return new Uint8Array(readFileSync(out))
}

/** reference program: dtc reads a blob and prints it; sorted, the order of nodes and properties does not count. */
export function dtcPrint(blob: Uint8Array, sorted = false): string {
  return execFileSync(
    '/usr/bin/dtc', ['-q', ...sorted ? ['-s'] : [], '-I', 'dtb', '-O', 'dts', put(blob, '.dtb')], { stdio: 'pipe' },
  ).toString()
}

/** What dtc says of a blob beside reading it. */
export function dtcWarnings(blob: Uint8Array): string {
  const out = join(folder, `f${files++}.err`)
  execFileSync('/bin/sh', ['-c', `/usr/bin/dtc -I dtb -O dts -o /dev/null '${put(blob, '.dtb')}' 2> '${out}'`])
  return readFileSync(out, 'utf8').replaceAll(/^.*?: Warning/gm, 'Warning')
}

/** reference program: fdtoverlay puts overlays onto a base. */
export function fdtoverlay(base: Uint8Array, ...overlays: Uint8Array[]): Uint8Array {
  const out = join(folder, `f${files++}.dtb`)
  execFileSync(
    '/usr/bin/fdtoverlay', ['-i', put(base, '.dtb'), '-o', out, ...overlays.map(overlay => put(overlay, '.dtbo'))],
    { stdio: 'pipe' },
  )
  return new Uint8Array(readFileSync(out))
}

const nodeName = fc.constantFrom('serial', 'i2c@1000', 'sensor@76', 'leds', 'led-0', 'cpus', 'soc', 'memory@0', 'a',
  'b', 'c-d.e+f')
const propertyName = fc.constantFrom('compatible', 'reg', 'status', 'x', '#cells', 'vendor,thing', 'interrupts', 'q?',
  'a.b')
const value = fc.oneof(
  fc.uint8Array({ maxLength: 12 }),
  fc.constantFrom('okay', 'a"b\\c', 'made,up').map(text => new TextEncoder().encode(`${text}\0`)),
  fc.constant(new Uint8Array([0])), fc.constant(new TextEncoder().encode('one\0two\0')),
)

const unique = <T extends { name: string }>(list: T[]) =>
  list.filter((entry, i) => list.findIndex(other => other.name === entry.name) === i)

const node = (depth: number): fc.Arbitrary<TreeNode> => fc.record({
  name: nodeName, properties: fc.array(fc.record({ name: propertyName, value }), { maxLength: 4 }).map(unique),
  children: depth > 0 ? fc.array(node(depth - 1), { maxLength: 3 }).map(unique) : fc.constant([]),
})

/** Any tree of values: what a blob can hold. */
export const anyTree: fc.Arbitrary<DeviceTree> = fc.record({
  reservations: fc.array(
    fc.record({ address: fc.bigInt({ min: 1n, max: (1n << 64n) - 1n }),
      size: fc.bigInt({ min: 1n, max: 1n << 40n }) }), { maxLength: 2 },
  ),
  root: node(3).map(root => ({ ...root, name: '' })), bootCpu: fc.constant(0),
})

/** A source whose references all lead somewhere. */
const scalar = fc.oneof(
  fc.integer({ min: 0, max: 0xFFFFFFFF }).map(n => `0x${n.toString(16)}`),
  fc.integer({ min: 0, max: 9999 }).map(String),
  fc.constantFrom('(1 << 4 | 3)', '(-1)', '(7 * 6 % 5)', '(2 > 1 ? 8 : 9)', '\'z\'', '017', '(~0 & 0xff)', '(!0 + !5)',
    '((1 + 2) * 3)'),
)
const LABELS = ['alpha', 'beta', 'gamma', 'delta'] as const
const piece = (refs: readonly string[]) => fc.oneof(
  fc.array(
    fc.oneof({ weight: 4, arbitrary: scalar },
      { weight: 2, arbitrary: fc.constantFrom(...refs).map(label => `&${label}`) }),
    { minLength: 1, maxLength: 4 },
  )
    .map(cells => `<${cells.join(' ')}>`),
  fc.constantFrom(
    '"okay"', '"a\\tb\\x41\\101"', '"say \\"so\\""', '[00 1f aB]', '/bits/ 8 <1 2 0xff>', '/bits/ 16 <0x1234>',
    '/bits/ 64 <0x123456789abcdef0>', '""',
  ),
  fc.constantFrom(...refs).map(label => `&${label}`),
)
const property = (refs: readonly string[]) => fc.tuple(propertyName, fc.array(piece(refs), { maxLength: 3 }))
  .map(([name, values]) => ({ name, text: `${name}${values.length ? ` = ${values.join(', ')}` : ''};` }))
const body = (refs: readonly string[]) => fc.array(property(refs), { maxLength: 4 })
  .map(list => unique(list).map(entry => entry.text).join(' '))

/** A base with four labelled nodes, second definitions, deletions and memory reservations. */
export const anyBase: fc.Arbitrary<string> = fc.record({
  root: body(LABELS), bodies: fc.array(body(LABELS), { minLength: 5, maxLength: 5 }),
  again: fc.array(fc.tuple(fc.constantFrom(...LABELS), body(LABELS)), { maxLength: 3 }), drop: fc.boolean(),
  reserve: fc.boolean(),
})
  .map(({ root, bodies, again, drop, reserve }) => `/dts-v1/;
${reserve ? '/memreserve/ 0x1000 0x2000;\n' : ''}/ {
  ${root}
  alpha: first@1 { ${bodies[0]} beta: inner { ${bodies[1]} }; };
  bus { ${bodies[2]} gamma: deep { ${bodies[3]} leaf { }; }; };
  delta: last { ${bodies[4]} };
  spare: spare { };
};
${again.map(([label, text]) => `&${label} { ${text} more { }; };`).join('\n')}
${drop ? '/delete-node/ &spare;\n&delta { /delete-property/ x; /delete-node/ more; };' : ''}
`)

/** An overlay on such a base: outer and own references, targets by label and by path. */
export const anyOverlay: fc.Arbitrary<string> = fc.record({
  target: fc.constantFrom(...LABELS),
  bodies: fc.array(
    fc.array(
      fc.tuple(
        propertyName, fc.array(fc.oneof(scalar, fc.constantFrom('&alpha', '&gamma', '&own', '&other')),
          { minLength: 1, maxLength: 4 }),
      ),
      { maxLength: 3 },
    ),
    { minLength: 3, maxLength: 3 },
  ),
  second: fc.boolean(),
})
  .map(({ target, bodies, second }) => {
    const text = (list: [string, string[]][]) => unique(list.map(([name, cells]) => ({ name,
      text: `${name} = <${cells.join(' ')}>;` })))
      .map(entry => entry.text)
      .join(' ')
    return `/dts-v1/;
/plugin/;
&${target} { ${text(bodies[0]!)} own: added@5 { ${text(bodies[1]!)} other: below { }; }; };
${second ? `&{/bus} { ${text(bodies[2]!)} newcomer { }; };` : ''}
`
  })
