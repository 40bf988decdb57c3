/** Included files: those that are not here, and those that include each other. */
import type { LintFinding, LintRule } from './types'
import { commentOut, found } from './words'

const NOT_READ = {
  ring: {
    severity: 'caution', title: (name: string) => `${name} includes itself`,
    sentence: 'The files include each other in a ring: the firmware reads them a few times over, or stops. Take this '
      + 'line out; the file is read where it is included first.',
  },
  deep: {
    severity: 'caution', title: (name: string) => `${name} is included too deep`,
    sentence: 'The firmware follows only some files into each other. Include it from the boot file itself.',
  },
  many: {
    severity: 'caution', title: () => 'Too many files are included',
    sentence: 'So many files are included that Voltaris stops reading here; what follows is not judged. Include '
      + 'each file once.',
  },
} as const

/** Included files that are not at hand, or that are not read. */
export const includes: LintRule = ({ effective, files }) => {
  const told = new Set<string>()
  return effective.asked.flatMap((asked): LintFinding[] => {
    if (asked.kind !== 'missing-file' || asked.applies === 'never') return []
    // A file that is read more than once has the same line each time, and one that is not here is told once.
    let key: string
    if (asked.why === 'many') key = 'many'
    else key = asked.why ? `${asked.where.file} ${asked.where.from} ${asked.why}` : `missing ${asked.name}`
    if (told.has(key)) return []
    told.add(key)
    const fixes = [commentOut('Do not include it', files, asked.where)]
    if (asked.why) {
      const { severity, title, sentence } = NOT_READ[asked.why]
      return [found('boot.include-ring', severity, asked.where, title(asked.name || 'The boot file'), sentence,
        { fixes })]
    }
    return [found(
      'boot.include-missing', 'note', asked.where, `${asked.name} is included and not here`,
      'What it says is not judged. Drop it beside the boot file; on the card it lies in the same folder.', { fixes },
    )]
  })
}
