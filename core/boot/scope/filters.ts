/**
 * Section filters of the key-value dialect: which lines below a heading a board reads. How they join is from memory.
 */

/** How the firmware knows a board: the words of its own filters. */
export interface BoardFilters {
  /** Model filters that let this board through, in lower case. */
  models: readonly string[]
}

/**
 * The board's filters; null without a board. A board of the maker's own that names none is let through by
 * no model filter.
 */
export const filtersOf = (board: { bootModels?: readonly string[] } | null): BoardFilters | null => board
  ? { models: board.bootModels ?? [] }
  : null

type Kind = 'model' | 'screen' | 'line' | 'serial' | 'partition' | 'tryboot' | 'port' | 'unknown'

/** What a heading asks about. Unknown words are told apart so that lint can speak of them. */
export function filterKind(heading: string): Kind {
  if (heading === 'none' || MODELS.has(heading)) return 'model'
  if (heading.startsWith('edid=')) return 'screen'
  if (/^gpio\d+=[01]$/.test(heading)) return 'line'
  if (/^0x[0-9a-f]+$/.test(heading)) return 'serial'
  if (/^(boot_partition|partition|boot_arg1|bootvar0|boot_count|board-type|board-rev)\b/.test(heading)) return 'partition'
  if (heading === 'tryboot') return 'tryboot'
  if (/^hdmi:[01]$/.test(heading)) return 'port'
  return 'unknown'
}

/** Model words that the firmware of the key-value dialect knows; one of them names several models. memory */
export const MODELS: ReadonlySet<string> = new Set([
  'pi0', 'pi0w', 'pi02', 'pi1', 'pi2', 'pi3', 'pi3+', 'pi4', 'pi400', 'pi5', 'pi500', 'cm1', 'cm3', 'cm3+', 'cm4',
  'cm4s', 'cm5', 'cm0',
])

/**
 * The filters in force at a place of a file. `[all]` lifts them all; a heading replaces an earlier one of its kind and
 * joins those of others.
 */
export class FilterState {
  heading = 'all'
  private readonly held = new Map<Kind, string>()

  constructor(private readonly board: BoardFilters | null) {}

  take(heading: string): void {
    this.heading = heading
    if (heading === 'all') this.held.clear()
    else this.held.set(filterKind(heading), heading)
  }

  get applies(): 'always' | 'never' | 'sometimes' {
    let sure = true
    for (const [kind, heading] of this.held) {
      if (heading === 'none') return 'never'
      if (kind === 'model' && this.board) {
        if (!this.board.models.includes(heading)) return 'never'
      }
      else if (kind !== 'port') sure = false
    }
    return sure ? 'always' : 'sometimes'
  }
}
