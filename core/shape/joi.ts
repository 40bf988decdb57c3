/** The checker of a declaration. */
import Joi from 'joi'
import type { Fields, FieldRule, Shape } from './shape'

type Is<K extends FieldRule['is']> = Extract<FieldRule, { is: K }>

/**
 * A Joi schema that lets through what the shape declares, with its starting values. Numbers and flags are never read
 * out of texts.
 */
export function joiOf(shape: Shape<unknown>): Joi.Schema {
  const { rule } = shape
  if (rule.is === 'depending') return dependingOf(rule)
  let schema = ruleOf(rule)
  if (shape.nullable) schema = schema.allow(null)
  if (shape.start) return shape.start === 'fields'
    ? (schema as Joi.ObjectSchema).default()
    : schema.default(shape.start.value as object)
  return shape.optional ? schema : schema.required()
}

const ruleOf = (rule: Exclude<FieldRule, Is<'depending'>>): Joi.Schema => {
  switch (rule.is) {
    case 'text': return textOf(rule)
    case 'number': return numberOf(rule)
    case 'flag': return Joi.boolean().strict()
    case 'oneOf': return Joi.valid(...rule.values)
    case 'list': return listOf(rule)
    case 'map': return Joi.object()
      .pattern(rule.key ? joiOf({ ...rule.key, optional: true }) : Joi.string(), joiOf({ ...rule.of, optional: true }))
    case 'object': return objectOf(rule)
    case 'choice': return choiceOf(rule)
  }
}

/** What a text has to be, in words, in place of the pattern. */
const AS_CALLED = { 'string.pattern.name': '{{#label}} must be {{#name}}, not "{{#value}}"' }

function textOf({ min, max, empty, pattern, called, not, date }: Is<'text'>): Joi.Schema {
  let schema = Joi.string()
  if (empty) schema = schema.allow('')
  if (min !== undefined) schema = schema.min(min)
  if (max !== undefined) schema = schema.max(max)
  if (pattern) schema = called ? schema.pattern(pattern, called).messages(AS_CALLED) : schema.pattern(pattern)
  if (date) schema = schema.isoDate()
  return not ? schema.invalid(...not) : schema
}

function numberOf({ min, max, above, whole }: Is<'number'>): Joi.Schema {
  let schema = Joi.number().strict()
  if (whole) schema = schema.integer()
  if (above !== undefined) schema = schema.greater(above)
  if (min !== undefined) schema = schema.min(min)
  return max === undefined ? schema : schema.max(max)
}

function listOf({ of, min, max, unique }: Is<'list'>): Joi.Schema {
  let schema = Joi.array().items(joiOf({ ...of, optional: true }))
  if (min !== undefined) schema = schema.min(min)
  if (max !== undefined) schema = schema.max(max)
  if (unique) schema = unique === true ? schema.unique() : schema.unique(unique)
  return schema
}

const fieldsOf = (fields: Fields) =>
  Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, joiOf(field)]))

function objectOf({ fields, open, either }: Is<'object'>): Joi.ObjectSchema {
  let schema = Joi.object(fieldsOf(fields))
  if (either) schema = schema.xor(...either)
  return open ? schema.unknown(true) : schema
}

function choiceOf({ by, variants, open }: Is<'choice'>): Joi.Schema {
  const tags = Object.keys(variants)
  return Joi.alternatives().conditional(`.${by}`, {
    switch: tags.map(tag => ({ is: tag,
      then: Joi.object({ [by]: Joi.valid(tag), ...fieldsOf(variants[tag]!) }).unknown(open) })),
    otherwise: Joi.object({ [by]: Joi.valid(...tags).required() }).unknown(true),
  })
}

const dependingOf = ({ on, value, then, otherwise }: Is<'depending'>): Joi.Schema =>
  Joi.when(on, { is: value, then: joiOf(then), otherwise: joiOf(otherwise) }) as unknown as Joi.Schema
