/** The plan's own boot file with all that the plan needs in it, and the edits that bring it there. */
import type { Need } from '../../overlays/asks/needs'
import type { Facts } from '../../facts/types'
import type { Edit } from '../../plan/edits'
import { changesBetween } from '../../plan/text'
import { dialectOf } from '../files'
import { filtersOf } from '../scope/filters'
import { mergeBoot, type MergedFile } from './merge'
import { mergeWords } from './words'

/** The file merged in its own dialect, as the maker wants lines of parts that are off to be kept. */
export function mergedFile(
  { plan, board }: Pick<Facts, 'plan' | 'board'>, needs: readonly Need[], takeBack: readonly number[] = [],
): MergedFile {
  const { text = '', off, whenOff } = plan.boot ?? {}
  const dialect = dialectOf(plan.boot, board)
  if (dialect !== 'key-value') return mergeWords(text, dialect, needs, { off, takeBack })
  return mergeBoot(text, needs, { off, whenOff, takeBack, filters: filtersOf(board) })
}

/**
 * The edit that gives the boot file another text: the stretch that differs, so that it composes with changes elsewhere
 * in the file.
 */
export const rewriteEdit = ({ plan }: Pick<Facts, 'plan'>, text: string): Edit => ({
  edit: 'edit-text', file: '', changes: changesBetween(plan.boot?.text ?? '', text),
})
