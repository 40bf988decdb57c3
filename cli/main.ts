/**
 * `bin/voltaris check|choose|place|power|build|diagnose|board|first-programs|files|program|begin|boot|dt …`: the core
 * for plans in files. Exit 0 fine, 1 a stop, 2 unusable input.
 */
import { boot } from './boot'
import { build } from './build'
import { check } from './check'
import { choose } from './choose'
import { diagnose } from './diagnose'
import { dt } from './dt'
import { place } from './place'
import { files } from './files'
import { firstPrograms } from './first-programs'
import { power } from './power'
import { begin, program } from './program'
import { UnusableInput } from './input'

const USAGE = `usage: voltaris check PLAN… [--json]
       voltaris choose PLAN [--totals] [--json]
       voltaris place PLAN [--json] [--all] [--write FILE]
       voltaris power PLAN [--json]
       voltaris build PLAN [--json|--steps|--wires|--cuts|--labels|--bodies|--parts]
       voltaris diagnose PLAN [--say WORDS]… [--seen PROBE=WHAT]… [--sheet|--script|--as-built|--json]
       voltaris board PLAN [--fault ID]… [--tools 1|2] [--run LINE]… | board PLAN --faults
       voltaris first-programs PLAN [--part ID] [--language NAME] [--json] [-o FOLDER]
       voltaris files PLAN [--json] [-o FOLDER]
       voltaris program PLAN FILE [--numbering line|header|own] [--language NAME] [--constants|--json] [-o OUT]
       voltaris begin FILE --board ID [--supply ID] [--numbering …] [-o PLAN]
       voltaris boot lint FILE [--board ID] [--plan PLAN] [--command-line FILE] [--dialect NAME] [--image older|newer] [--json]
       voltaris boot write PLAN [--into FILE] [-o OUT] [--json]
       voltaris boot rehearse PLAN [--json]
       voltaris dt compile FILE.dts [-@] [-I FOLDER]… [-o OUT] | decompile FILE.dtb [-o OUT] | apply BASE OVERLAY… [-o OUT]
       voltaris dt board FILE.dtb [--positions FILE] [--json] | base BOARD [-o OUT] | overlay PLAN [--part ID] [-o FOLDER]

check   findings and budgets of one plan or several; exit 0 nothing to stop, 1 a stop in one of them, 2 unusable input
choose  every board tried on the plan: placed, fed, fitted out and judged, the best first, with what it costs and gives up;
        exit 0 one carries it, 1 none does, 2 unusable input; --totals gives what the whole costs in each way that the plan knows
place   a place for every terminal, with what it cost; exit 0 placed, 1 impossible, 2 unusable input
        --all keeps only what is fixed in the plan; --write FILE writes the plan with its places
power   voltage, current and power at every node of the supply, in every state; exit 0, 1 a stop, 2 unusable input
build   parts list, steps in the order without regret, and wires, as Markdown; --steps, --wires, --cuts (what is cut from
        which reel), --labels (for both ends of each wire), --bodies (size and place of each) and --parts give one as CSV;
        exit 0, 1 a stop in the building, 2 unusable input
diagnose
        what the things that were seen at bring-up may come from, the likeliest first, and what to try next; what was seen is
        the plan's and what --seen adds ("volt:5V=4.2", "works:oled=nothing") and --say in words
        of your own ("screen stays white"); --sheet prints every probe with what should
        be seen there, --script a shell script that looks at all of it on the board, --as-built
        what stands there with all that was measured, as Markdown; exit 0 nothing odd, 1 something odd, 2 unusable input
board   the simulated board at a prompt: its shell, and what hands do beside it (":help"); --fault makes faults in it, --faults
        lists those that the plan can have; --tools is the major version of libgpiod on the image; --run runs a line and
        ends, lines by standard input do the same; exit as the last line, 2 unusable input
first-programs
        small programs that try each part, with this plan's lines, addresses and ports: how they are started and what must be
        seen; -o FOLDER writes them; exit 0, 1 there is none of that kind, 2 unusable input
files   what the board must be told beside its boot file: every small file with where it goes, printed; -o FOLDER writes them
        with a script that puts them in place; exit 0, 1 a stop among them, 2 unusable input
program a program, header file, configuration or table held against a plan: every pin, bus, address, rate and device in it;
        -o OUT writes it put right, --constants prints the plan as constants; exit 0, 1 something contradicts, 2 unusable input
begin   a plan begun from a program or a table; exit 0, 1 nothing in it could be told, 2 unusable input
boot    lint: findings on a boot file with their fixes; exit 0 nothing to mend, 1 a stop or a caution, 2 unusable input
        write: the file with the plan's lines in it, printed; --into FILE writes it there too and keeps the old one as FILE.before;
        exit 0, 1 a line was changed by hand and is kept, 2 unusable input
        rehearse: what loads, what fails, what appears, which parts come alive; exit 0, 1 a part stays dark, 2 unusable input
dt      device tree sources and blobs; board: a board profile read from a blob; base: the tree that ships for a board class;
        overlay: overlays made for the parts of a plan; exit 0, 1 an overlay does not go on or cannot be made, 2 unusable input
PLAN    a plan file, or - for standard input`

const commands: Record<string, (args: string[]) => number> = {
  check, choose, place, power, build, diagnose, files, 'first-programs': firstPrograms, program, begin, boot, dt,
}

/** The command with its arguments: prints, and gives the exit code. */
export function main([name, ...args]: string[]): number {
  if (name === '--help' || name === '-h') {
    console.log(USAGE)
    return 0
  }
  const command = name && Object.hasOwn(commands, name) ? commands[name] : undefined
  if (!command) {
    console.error(name ? `voltaris: there is no command "${name}".\n${USAGE}` : USAGE)
    return 2
  }
  try {
    return command(args)
  }
  catch (error) {
    if (!(error instanceof UnusableInput)) throw error
    console.error(error.message)
    return 2
  }
}

/** Runs the command with its arguments and sets the exit code. */
export function run(args: string[]): void {
  // Whoever reads may stop reading early: `| head` is no fault.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error
    process.exit()
  })
  process.exitCode = main(args)
}
