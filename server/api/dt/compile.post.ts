import Joi from 'joi'
import { writeBlob } from '../../../core/devicetree/blob/write'
import { compileText } from '../../../core/devicetree/source/compile'
import { givenFiles } from '../../../core/devicetree/source/files'
import { bytesOf } from '../../../core/boot/bytes'
import { bodyOf, toBase64, treeWork } from '../../utils/door'

interface Asked {
  source: string
  file?: string
  symbols?: boolean
  files?: Record<string, string>
  binaries?: Record<string, string>
}

const schema = Joi.object<Asked>({
  source: Joi.string().required(), file: Joi.string().max(300), symbols: Joi.boolean(),
  files: Joi.object().pattern(Joi.string(), Joi.string().allow('')), binaries: Joi.object().pattern(Joi.string(), Joi.string().base64()),
})

/**
 * `{ source, symbols?, files?, binaries? }` → `{ blob }` in base64. `files` are those that it includes, by name; `binaries` those of
 * `/incbin/`, in base64.
 */
export default defineEventHandler(async (event) => {
  const { source, file = 'source.dts', symbols = false, files = {}, binaries = {} } = await bodyOf(event, schema)
  const given = givenFiles(
    new Map(Object.entries(files)), new Map(Object.entries(binaries).map(([name, content]) => [name, bytesOf(content)])),
  )
  return { blob: toBase64(treeWork('source', () => writeBlob(compileText(source, { symbols, file, files: given })))) }
})
