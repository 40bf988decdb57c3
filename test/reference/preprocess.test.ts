/**
 * Unpreprocessed and preprocessed Devicetree sources against Debian's `cpp` before its `dtc`, which
 * the set-up installs.
 */
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { writeBlob } from '../../core/devicetree/blob/write'
import { compileText } from '../../core/devicetree/source/compile'
import { givenFiles } from '../../core/devicetree/source/files'
import { dtcCompile, dtcPrint } from '../devicetree'
import { draws } from '../random'

const folder = mkdtempSync(join(tmpdir(), 'voltaris-cpp-'))
afterAll(() => rmSync(folder, { recursive: true }))

/** Text as the kernel's build runs `cpp` over it; files beside it by name. */
function cpp(main: string, files: Readonly<Record<string, string>> = {}): string {
  for (const [name, text] of Object.entries({ ...files, 'main.dts': main })) {
    mkdirSync(dirname(join(folder, name)), { recursive: true })
    writeFileSync(join(folder, name), text)
  }
  const args = ['-nostdinc', '-I', 'include', '-undef', '-D__DTS__', '-x', 'assembler-with-cpp', 'main.dts']
  return execFileSync('/usr/bin/cpp', args, { cwd: folder, encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })
}

function same(main: string, files: Readonly<Record<string, string>> = {}, symbols = false): void {
  const text = cpp(main, files)
  const theirs = dtcPrint(dtcCompile(text, symbols))
  expect(
    dtcPrint(writeBlob(compileText(main,
      { symbols, file: 'main.dts', files: givenFiles(new Map(Object.entries(files))) }))),
  ).toBe(theirs)
  // What the preprocessor leaves, with its line markers, is the same source.
  expect(dtcPrint(writeBlob(compileText(text, { symbols })))).toBe(theirs)
}

describe('a source with macros, conditions and includes', () => {
  it.each<[string, string]>([
    ['arguments', '#define PIN(port, n) ((port) * 32 + (n))\n/ { a = <PIN(1, 3) PIN(PIN(0, 1), 2)>; };'],
    ['no arguments between parentheses', '#define ZERO() 0\n/ { a = <ZERO() ZERO ()>; };'],
    ['a name without its parentheses is none', '#define P(x) x\n/ { P = <P(1)>; P { }; };'],
    ['an argument over several lines', '#define SUM(a, b) (a + b)\n/ { a = <SUM(1,\n  2)>; b = <3>; };'],
    ['pasting', '#define LABEL(n) uart ## n\n/ { r = <&LABEL(1)>; LABEL(1): x { }; };'],
    ['pasting of what is empty', '#define J(a, b) <a ## b>\n/ { a = J(1,), J(,2), J(1,2); };'],
    ['quoting', '#define S(x) #x\n/ { a = S(one  two), S("q\\n"); };'],
    [
      'an argument is expanded before it goes in, but not beside ##',
      '#define X 7\n#define Q(x) #x\n#define E(x) Q(x)\n/ { a = Q(X), E(X); };',
    ],
    ['variable arguments',
      '#define L(...) <__VA_ARGS__>\n#define M(a, rest...) <a rest>\n/ { a = L(1 2 3), M(1, 2); };'],
    ['a comma that goes with what is not there', '#define F(a, ...) <a>, ## __VA_ARGS__\n/ { a = F(1, <2>), F(3); };'],
    ['a macro that names itself', '#define self self\n/ { self { }; };'],
    ['two macros that name each other', '#define a b\n#define b a\n/ { a { }; c { b; }; };'],
    ['a macro whose arguments stand behind it', '#define CALL DO\n#define DO(x) (x + 1)\n/ { a = <CALL(4)>; };'],
    ['a macro made by a macro', '#define F(x) G(x)\n#define G(x) (x * 2)\n/ { a = <F(F(3))>; };'],
    ['lines that go on', '#define LONG (1 + \\\n 2)\n/ { a = <LONG>; b = <&{/x}>; x { }; };'],
    ['names of properties behind #', '/ {\n#address-cells = <1>;\n  #size-cells = <0>;\n#define N 3\n  n = <N>;\n};'],
    ['words within text and comments stay',
      '#define pin 5\n/ { a = "pin", "a /* pin */"; /* pin */ b = <pin>; // pin\n };'],
    ['signs that would run together', '#define MINUS -\n#define ONE 1\n/ { a = <(3 MINUS ONE) (3-MINUS 1)>; };'],
    ['definitions taken back and given anew', '#define A 1\n#undef A\n#define A 2\n/ { a = <A>; };'],
    ['conditions', '#define V 3\n#if V > 2 && defined(V) && !defined(W)\n/ { yes; };\n#elif V\n/ { no; };\n#else\n/ { never; };\n#endif'],
    ['conditions with a sign', '#if -1 < 0 && (2 - 3) / 2 == 0 && ~0 < 1\n/ { yes; };\n#else\n/ { no; };\n#endif'],
    [
      'conditions within conditions that do not hold',
      '#if 0\n#if 1\n/ { a; };\n#else\n/ { b; };\n#endif\n#elif 1\n/ { c; };\n#else\n/ { d; };\n#endif',
    ],
    ['unknown words are nothing', '#if UNKNOWN || defined UNKNOWN\n/ { a; };\n#else\n/ { b; };\n#endif'],
    ['what the kernel says it is', '#ifdef __DTS__\n/ { a = <__DTS__>; };\n#endif'],
    ['what is not read may be anything', '#if 0\n/ { it\'s "not closed };\n#endif\n/ { };'],
  ])('%s', (_, body) => same(`/dts-v1/;\n${body}\n`))

  it('takes files beside it and from folders of headers, each as often as it is named', () => {
    same('/dts-v1/;\n#include "soc/soc.dtsi"\n#include <dt-bindings/made/up.h>\n#include <dt-bindings/made/up.h>\n/ { a = <UP SOC>; };\n', {
      'soc/soc.dtsi': '#include "pins.h"\n/ { soc { n = <SOC>; }; };\n', 'soc/pins.h': '#define SOC 4\n',
      'include/dt-bindings/made/up.h': '#ifndef UP_H\n#define UP_H\n#define UP 9\n#endif\n',
    })
  })

  it('leaves labelled nodes that nothing refers to where overlays may name them', () => {
    const body = '/dts-v1/;\n/ { /omit-if-no-ref/ a: a { }; /omit-if-no-ref/ b { }; };\n/ { top { x: x { n = <1>; }; }; };\n&x { in { '
      + 'p; }; in { q; }; };\n'
    same(body)
    same(body, {}, true)
  })

  it('lists several labels of one node in the order of the reference', () => {
    same('/dts-v1/;\n/ { a: b: n { c: d: m { }; }; };\ne: &a { f: c: m { x; }; };\ng: &a { h: i: m { }; };\n', {}, true)
  })

  it('of any macros that lead to each other comes out the same', () => {
    const name = fc.constantFrom('A', 'B', 'C', 'D')
    const number = fc.integer({ min: 0, max: 40 }).map(String)
    const { term } = fc.letrec<{ term: string }>(tie => ({
      term: fc.oneof(
        { depthSize: 'small' }, number, name, fc.tuple(
          fc.constantFrom('F', 'G'), tie('term'), tie('term'),
        ).map(([f, a, b]) => `${f}(${a}, ${b})`),
        fc.tuple(tie('term'), fc.constantFrom('+', '*', '|', '-'), tie('term'))
          .map(([a, sign, b]) => `(${a} ${sign} ${b})`),
      ),
    }))
    const body = fc.oneof(term, fc.constantFrom('(x + y)', 'x ## y', '(F(x, 1) + y)', 'G(y, x)', '(x)'))
    fc.assert(fc.property(fc.array(
      term, { minLength: 4, maxLength: 4 },
    ), body, body, fc.array(term, { minLength: 1, maxLength: 4 }), (values, f, g, used) => {
      const text = `${['A', 'B', 'C', 'D'].map((macro, i) => `#define ${macro} ${values[i]}`).join('\n')}\n#define F(x, y) `
        + `${f}\n#define G(x, y) ${g}\n`
        + `/dts-v1/;\n/ { ${used.map((expression, i) => `p${i} = <(${expression})>;`).join(' ')} };\n`
      let theirs: string
      try {
        theirs = dtcPrint(dtcCompile(cpp(text)))
      }
      catch {
        // A word is left over, or too large a number: then it is none here either.
        expect(() => compileText(text), text).toThrow()
        return
      }
      expect(dtcPrint(writeBlob(compileText(text))), text).toBe(theirs)
    }), { numRuns: draws(80) })
  })
})
