/** Boot files: lint, write, rehearse. */
import Joi from 'joi'
import { shippedCatalogue } from '../../core/catalogue'
import { tellDialect, type Dialect } from '../../core/boot/dialects/tell'
import { lintBoot } from '../../core/boot/lint'
import { mergedFile } from '../../core/boot/own/file'
import { rehearse } from '../../core/boot/rehearse/rehearse'
import { gatherFacts } from '../../core/facts/gather'
import { needsOf } from '../../core/overlays/asks/needs'
import { bodyFrom, planAndText, planFrom, treeWork } from './bodies'
import { unusable } from './problem'

interface ToLint {
  text: string
  path?: string
  dialect?: Dialect
  commandLine?: string
  includes?: Record<string, string>
  board?: string
  image?: 'older' | 'newer'
}

const toLint = Joi.object<ToLint>({
  text: Joi.string().allow('').required(), path: Joi.string().max(300),
  dialect: Joi.string().valid('key-value', 'extlinux', 'environment'), commandLine: Joi.string().allow(''),
  includes: Joi.object().pattern(Joi.string(), Joi.string().allow('')),
  board: Joi.string().valid(...shippedCatalogue.boards.keys()),
  image: Joi.string().valid('older', 'newer'),
})

/** Findings on a boot file: `{ text, board?, path?, dialect?, commandLine?, includes?, image? }`. */
export function lintJob(body: string) {
  const { text, path, dialect, commandLine, includes, board, image } = bodyFrom(body, toLint)
  const files = {
    text, dialect: dialect ?? tellDialect(text, path), ...(path !== undefined && { path }),
    ...(commandLine !== undefined && { commandLine }), ...(includes && { includes }),
  }
  return {
    dialect: files.dialect,
    findings: lintBoot({ files, board: board === undefined ? null : shippedCatalogue.boards.get(board)!,
      ...(image && { image }) }),
  }
}

/**
 * The boot file with the plan's lines in it. The body is a plan, or `{ plan, text }` for another file than
 * the plan's own.
 */
export function writeJob(body: string) {
  const { plan, text } = planAndText(body)
  const facts = gatherFacts(text === undefined ? plan : { ...plan, boot: { ...plan.boot, text } }, shippedCatalogue)
  if (!facts.board) {
    throw unusable('plan',
      [{ path: 'board', message: 'The plan names no board that the catalogue knows; the lines depend on it.' }])
  }
  return mergedFile(facts, needsOf(facts))
}

/** The story of a start with the plan's files: steps, claims, collisions, device nodes, parts. */
export function rehearseJob(body: string) {
  const facts = gatherFacts(planFrom(body), shippedCatalogue)
  const { tree: _, ...story } = treeWork('boot.base', () => rehearse(facts))
  return story
}
