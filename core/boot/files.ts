/** The plan's boot files as the boot core reads them; the one place where their dialect is decided. */
import type { Board } from '../catalogue/types'
import type { Plan } from '../plan/types'
import { tellDialect, type Dialect } from './dialects/tell'
import type { BootFiles } from './scope/effective'

/** A line that is neither blank nor a comment: only such lines tell a dialect. */
const tells = (text: string) => text.split(/\r?\n/).some(line => line.trim() && !line.trim().startsWith('#'))

/**
 * The dialect of a plan's boot file: what the maker said; else what the text itself tells; where it tells nothing, what
 * the board reads; where there is no board either, what the file's name tells.
 */
export function dialectOf(boot: Plan['boot'], board: Pick<Board, 'bootDialect'> | null): Dialect {
  if (boot?.dialect) return boot.dialect
  const text = boot?.text ?? ''
  if (tells(text)) return tellDialect(text, boot?.path)
  return board ? board.bootDialect ?? 'key-value' : tellDialect(text, boot?.path)
}

/** All files of a plan that a start reads. */
export function filesOf({ boot }: Pick<Plan, 'boot'>, board: Board | null): BootFiles {
  return {
    dialect: dialectOf(boot, board), text: boot?.text ?? '',
    ...(boot?.path !== undefined && { path: boot.path }),
    ...(boot?.commandLine !== undefined && { commandLine: boot.commandLine }),
    ...(boot?.includes && { includes: boot.includes }), ...(boot?.overlays && { overlays: boot.overlays }),
  }
}
