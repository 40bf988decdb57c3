import Joi from 'joi'
import { readBlob } from '../../../core/devicetree/blob/read'
import { writeBlob } from '../../../core/devicetree/blob/write'
import { applyOverlay } from '../../../core/devicetree/overlay/apply'
import { blobField, bodyOf, fromBase64, toBase64, treeWork } from '../../utils/door'

const schema = Joi.object<{ base: string, overlays: string[] }>({
  base: blobField.required(), overlays: Joi.array().items(blobField.required()).min(1).max(100).required(),
})

/** `{ base, overlays }` in base64 → `{ blob }`. 422 when one does not go on. */
export default defineEventHandler(async (event) => {
  const { base, overlays } = await bodyOf(event, schema)
  let tree = treeWork('base', () => readBlob(fromBase64(base)))
  overlays.forEach((overlay, i) => tree = treeWork(`overlays.${i}`, () => applyOverlay(tree, readBlob(fromBase64(overlay)))))
  return { blob: toBase64(treeWork('base', () => writeBlob(tree))) }
})
