import Joi from 'joi'
import { shippedCatalogue } from '../../../core/catalogue'
import { tellDialect, type Dialect } from '../../../core/boot/dialects/tell'
import { lintBoot } from '../../../core/boot/lint'
import { bodyOf } from '../../utils/door'

interface Body {
  text: string
  path?: string
  dialect?: Dialect
  commandLine?: string
  includes?: Record<string, string>
  board?: string
  image?: 'older'
    | 'newer'
}

const schema = Joi.object<Body>({
  text: Joi.string().allow('').required(), path: Joi.string().max(300),
  dialect: Joi.string().valid('key-value', 'extlinux', 'environment'), commandLine: Joi.string().allow(''),
  includes: Joi.object().pattern(Joi.string(), Joi.string().allow('')), board: Joi.string().valid(...shippedCatalogue.boards.keys()),
  image: Joi.string().valid('older', 'newer'),
})

/** Findings on a boot file: `{ text, board?, path?, dialect?, commandLine?, includes?, image? }`. */
export default defineEventHandler(async (event) => {
  const { text, path, dialect, commandLine, includes, board, image } = await bodyOf(event, schema)
  const files = {
    text, dialect: dialect ?? tellDialect(text, path), ...(path !== undefined && { path }),
    ...(commandLine !== undefined && { commandLine }), ...(includes && { includes }),
  }
  return {
    dialect: files.dialect,
    findings: lintBoot({ files, board: board === undefined ? null : shippedCatalogue.boards.get(board)!, ...(image && { image }) }),
  }
})
