/** Runs a circuit in ngspice (Debian) and reads what it measures. Reference tests hold Voltaris' figures against it. */
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export const SPICE = '/usr/bin/ngspice'
export const hasSpice = existsSync(SPICE)

/**
 * `lines` is the circuit without its title, `run` the analysis command, `measures` what to measure of it. Gives each
 * measured value by name; throws with the program's own words where one is missing.
 */
export function spice(lines: readonly string[], run: string,
  measures: Readonly<Record<string, string>>): Record<string, number> {
  const folder = mkdtempSync(join(tmpdir(), 'spice-'))
  try {
    const file = join(folder, 'circuit.cir')
    const asked = Object.entries(measures).map(([name, what]) => `meas ${run.split(' ')[0]} ${name} ${what}`)
    writeFileSync(file, ['* circuit', ...lines, '.control', run, ...asked, 'quit 0', '.endc', '.end', ''].join('\n'))
    const { stdout, stderr } = spawnSync(SPICE, ['-b', file], { encoding: 'utf8' })
    return Object.fromEntries(Object.keys(measures).map((name) => {
      const found = new RegExp(`^${name}\\s*=\\s*(\\S+)`, 'mi').exec(stdout)
      if (!found) throw new Error(`ngspice measured no ${name}: ${stdout}\n${stderr}`)
      return [name, Number(found[1])]
    }))
  }
  finally {
    rmSync(folder, { recursive: true })
  }
}

/** The voltage of joints at rest: an operating point. */
export function spicePoint(lines: readonly string[], joints: readonly string[]): Record<string, number> {
  const folder = mkdtempSync(join(tmpdir(), 'spice-'))
  try {
    const file = join(folder, 'circuit.cir')
    writeFileSync(file, [
      '* circuit', ...lines, '.control', 'op', ...joints.map(joint =>
        `print v(${joint})`), 'quit 0', '.endc', '.end', '',
    ].join('\n'))
    const { stdout, stderr } = spawnSync(SPICE, ['-b', file], { encoding: 'utf8' })
    return Object.fromEntries(joints.map((joint) => {
      const found = new RegExp(`^v\\(${joint}\\)\\s*=\\s*(\\S+)`, 'mi').exec(stdout)
      if (!found) throw new Error(`ngspice gave no v(${joint}): ${stdout}\n${stderr}`)
      return [joint, Number(found[1])]
    }))
  }
  finally {
    rmSync(folder, { recursive: true })
  }
}

/** A diode that takes `dropV` and nearly nothing else, as spice has it: a steep junction and a source. */
export const spiceDiode = (name: string, from: string, to: string, dropV: number): string[] => [
  `D${name} ${from} ${name}_m steep`, `VD${name} ${name}_m ${to} ${dropV}`,
]
export const SPICE_MODELS = ['.model steep D(IS=1e-9 N=0.05 RS=1e-3 CJO=20n)', '.options reltol=1e-4 itl4=200']

/** A bridge from the AC terminals `a` and `b` onto `out` against ground, both of its diodes together taking `dropV`. */
export const spiceBridge = (a: string, b: string, out: string, dropV: number): string[] => [
  ...spiceDiode('b1', a, out, dropV / 2), ...spiceDiode('b2', b, out, dropV / 2),
  ...spiceDiode('b3', '0', a, dropV / 2),
  ...spiceDiode('b4', '0', b, dropV / 2),
]
