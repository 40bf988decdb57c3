import Joi from 'joi'
import { writeBlob } from '../../../core/devicetree/blob/write'
import { compileText } from '../../../core/devicetree/source/compile'
import { bodyOf, toBase64, treeWork } from '../../utils/door'

const schema = Joi.object<{ source: string, file?: string, symbols?: boolean, files?: Record<string, string> }>({
  source: Joi.string().required(), file: Joi.string().max(300), symbols: Joi.boolean(),
  files: Joi.object().pattern(Joi.string(), Joi.string().allow('')),
})

/** `{ source, symbols?, files? }` → `{ blob }` in base64. `files` are those that it includes, by name. */
export default defineEventHandler(async (event) => {
  const { source, file = 'source.dts', symbols = false, files = {} } = await bodyOf(event, schema)
  const read = (name: string) => Object.hasOwn(files, name) ? files[name]! : null
  return { blob: toBase64(treeWork('source', () => writeBlob(compileText(source, { symbols, file, files: { read } })))) }
})
