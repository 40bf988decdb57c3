/** Boards and parts of the maker's own: read from text and checked on entry. */
import type Joi from 'joi'
import { problemsOf, type Problem } from '../documents/failure'
import { boardSchema, partSchema } from './schemas'
import type { Board, Part } from './types'

export type OwnEntry = { kind: 'board', entry: Board } | { kind: 'part', entry: Part }
export type OwnResult = ({ ok: true } & OwnEntry) | { ok: false, problems: Problem[] }

/** Reads a board or part file; told apart by its header. Never throws. */
export function readOwn(text: string): OwnResult {
  let document: unknown
  try {
    document = JSON.parse(text)
  }
  catch (error) {
    return { ok: false, problems: [{ path: '', message: `This is not a JSON document: ${(error as Error).message}.` }] }
  }
  if (typeof document !== 'object' || document === null || Array.isArray(document)) {
    return { ok: false,
      problems: [{ path: '', message: 'A board or a part is a JSON object; this is something else.' }] }
  }
  const isBoard = 'header' in document
  const problems = [...schemaProblems(isBoard ? boardSchema : partSchema, document),
    ...isBoard ? [] : partProblems(document as Part)]
  if (problems.length) return { ok: false, problems }
  return isBoard
    ? { ok: true, kind: 'board', entry: document as Board }
    : { ok: true, kind: 'part',
        entry: document as Part }
}

function schemaProblems(schema: Joi.Schema, document: unknown): Problem[] {
  const { error } = schema.validate(document, { abortEarly: false, convert: false })
  return error ? problemsOf(error.details) : []
}

/** What no schema sees: options and signals that are named but not there. */
function partProblems(part: Part): Problem[] {
  const options = new Set((Array.isArray(part.options) ? part.options : []).map(option => option?.id))
  const asked: [string, string | undefined][] = [
    ['i2c.addressOption', part.i2c?.addressOption], ['serial.baudOption', part.serial?.baudOption],
    ['strip.pixelsOption', part.strip?.pixelsOption], ['seat.shiftOption', part.seat?.shiftOption],
    ['seat.passesOption', part.seat?.passesOption],
    ['matrix.rowsOption', part.matrix?.rowsOption], ['matrix.columnsOption', part.matrix?.columnsOption],
    ...(Array.isArray(part.signals)
      ? part.signals
      : []).map((signal, i): [string, string | undefined] => [`signals[${i}].repeat`, signal?.repeat]),
  ]
  return [
    ...asked.flatMap(([path, option]) => option !== undefined && !options.has(option)
      ? [{ path, message: `"${option}" is no option of this part` }]
      : []),
    ...conditionProblems(part, options), ...defaultProblems(part),
  ]
}

const CONDITIONAL = ['signals', 'supplies', 'grounds', 'plugs', 'boot', 'nodes'] as const

/** Conditions that name an option which is not there: they never hold, and what hangs on them never comes. */
function conditionProblems(part: Part, options: ReadonlySet<string | undefined>): Problem[] {
  return CONDITIONAL.flatMap(list => (Array.isArray(part[list]) ? part[list] : []).flatMap((entry, i) =>
    Object.keys(entry?.when ?? {})
      .filter(option => !options.has(option))
      .map(option => ({ path: `${list}[${i}].when`, message: `"${option}" is no option of this part` }))))
}

/** Choices that start with a value they do not offer. */
function defaultProblems(part: Part): Problem[] {
  return (Array.isArray(part.options) ? part.options : []).flatMap((option, i) =>
    option?.kind === 'choice' && Array.isArray(option.values)
    && !option.values.some(entry => entry?.value === option.default)
      ? [{ path: `options[${i}].default`, message: `"${option.default}" is none of the values` }]
      : [])
}
