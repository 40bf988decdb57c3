import Joi from 'joi'
import { readBlob } from '../../../core/devicetree/blob/read'
import { printSource } from '../../../core/devicetree/source/print'
import { blobField, bodyOf, fromBase64, treeWork } from '../../utils/door'

const schema = Joi.object<{ blob: string }>({ blob: blobField.required() })

/** `{ blob }` in base64 → `{ source }`. */
export default defineEventHandler(async (event) => {
  const { blob } = await bodyOf(event, schema)
  return { source: treeWork('blob', () => printSource(readBlob(fromBase64(blob)), { labels: true })) }
})
