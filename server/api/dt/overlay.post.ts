import { shippedCatalogue } from '../../../core/catalogue'
import { gatherFacts } from '../../../core/facts/gather'
import { overlayBlob, overlaysForParts } from '../../../core/overlays/write'
import { planFromBody, toBase64 } from '../../utils/door'

/** Overlays made for the plan's parts: source and blob, or why there is none. */
export default defineEventHandler(async event => overlaysForParts(gatherFacts(await planFromBody(event), shippedCatalogue))
  .map(overlay => overlay.ok ? { ...overlay, blob: toBase64(overlayBlob(overlay.source)) } : overlay))
