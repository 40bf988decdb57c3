import { PADS } from '../../../core/devicetree/board/pads'
import Joi from 'joi'
import { readBlob } from '../../../core/devicetree/blob/read'
import { boardFromTree } from '../../../core/devicetree/board/catalogue'
import { positionsFromNames, readPositions } from '../../../core/devicetree/board/positions'
import { profileOf } from '../../../core/devicetree/board/profile'
import { blobField, bodyOf, fromBase64, treeWork } from '../../utils/door'

const schema = Joi.object<{ blob: string, positions?: string, name?: string }>({
  blob: blobField.required(), positions: Joi.string().allow('').max(20_000), name: Joi.string().max(100),
})

/** `{ blob, positions? }` → `{ profile }`, and `{ board }` with a table of positions, one a line: `3 PA12`. */
export default defineEventHandler(async (event) => {
  const { blob, positions, name = '' } = await bodyOf(event, schema)
  const profile = treeWork('blob', () => profileOf(readBlob(fromBase64(blob)), { pads: PADS }))
  const { rows, problems } = positions === undefined ? { rows: positionsFromNames(profile), problems: [] } : readPositions(positions)
  if (problems.length) {
    throw createError({
      statusCode: 400, statusMessage: 'Unusable positions',
      data: { problems: problems.map(({ line, message }) => ({ path: `positions, line ${line}`, message })) },
    })
  }
  return { profile, ...(rows.length > 1 && boardFromTree(profile, rows, { id: 'own-board', name })) }
})
