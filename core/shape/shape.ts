/**
 * What a document may hold, declared once: from one declaration follow the TypeScript type (`Of`), the Joi check
 * (`joi.ts`) and what a missing field starts with (`startOf`). A declaration is plain data and loads nothing, so
 * the first page can start an empty plan without the checker. Fields are needed unless they are `optional`,
 * `starting` or `filled`.
 */

/** What is asked of a value. */
export type FieldRule
  = | {
    is: 'text'
    min?: number
    max?: number
    empty?: boolean
    pattern?: RegExp
    called?: string
    not?: readonly string[]
    date?: boolean
  }
  | { is: 'number', min?: number, max?: number, above?: number, whole?: boolean }
  | { is: 'flag' }
  | { is: 'oneOf', values: readonly (string | number)[] }
  | { is: 'list', of: Shape<unknown>, min?: number, max?: number, unique?: string | true }
  | { is: 'map', of: Shape<unknown>, key?: Shape<string> }
  | { is: 'object', fields: Fields, open: boolean, either?: readonly string[] }
  | { is: 'choice', by: string, variants: Readonly<Record<string, Fields>>, open: boolean }
  | { is: 'depending', on: string, value: string, then: Shape<unknown>, otherwise: Shape<unknown> }

/** A declaration of values of type T. */
export interface Shape<T> {
  readonly rule: FieldRule
  readonly nullable?: true
  readonly optional?: true
  /** What stands where nothing is said; `fields`: an object of what its own fields start with. */
  readonly start?: { value: unknown } | 'fields'
  /** Only for the type; never there. */
  readonly type?: T
}

export type Fields = Readonly<Record<string, Shape<unknown>>>
interface Optional<T> extends Shape<T> { readonly optional: true }

/** The type of the values that a shape declares. */
export type Of<S> = S extends Shape<infer T> ? T : never

type OptionalKey<F> = { [K in keyof F]: F[K] extends Optional<unknown> ? K : never }[keyof F]
type Flat<T> = { [K in keyof T]: T[K] }
type Whole<F> = { -readonly [K in keyof Omit<F, OptionalKey<F>>]: Of<F[K & keyof F]> }
type Partly<F> = { -readonly [K in keyof Pick<F, OptionalKey<F>>]?: Of<F[K]> }
/** The type of an object by its fields. */
export type ObjectOf<F> = Flat<Whole<F> & Partly<F>>
type ChoiceOf<B extends string, V> = { [K in keyof V]: Flat<{ [Tag in B]: K } & ObjectOf<V[K]>> }[keyof V]

interface TextRules {
  min?: number
  max?: number
  empty?: boolean
  pattern?: RegExp
  called?: string
  not?: readonly string[]
  date?: boolean
}
/** `called` is what a refusal calls the pattern; `empty` lets the empty text through. */
export const text = (rules: TextRules = {}): Shape<string> => ({ rule: { is: 'text', ...rules } })
/** `above` is not reached, `least` and `most` are. */
export const number = (rules: { min?: number, max?: number, above?: number, whole?: boolean } = {}): Shape<number> =>
  ({ rule: { is: 'number', ...rules } })
export const flag: Shape<boolean> = { rule: { is: 'flag' } }
export const oneOf = <const V extends readonly (string
  | number)[]>(...values: V): Shape<V[number]> => ({ rule: { is: 'oneOf', values } })
/** `unique`: no two alike, or no two with the same value in this field. */
export const list = <T>(of: Shape<T>, rules: { min?: number, max?: number, unique?: string | true } = {}): Shape<T[]> =>
  ({ rule: { is: 'list', of, ...rules } })
/** Names of any kind → values. */
export const map = <T, K extends string = string>(of: Shape<T>, key?: Shape<K>): Shape<Record<K, T>> =>
  ({ rule: { is: 'map', of, ...(key && { key }) } })
/** A closed object: a misspelt field is an error. `either`: exactly one of these fields. */
export const object = <const F extends Fields>(fields: F,
  rules: { either?: readonly string[] } = {}): Shape<ObjectOf<F>> =>
  ({ rule: { is: 'object', fields, open: false, ...rules } })
/** An object whose unknown fields are let through and kept. */
export const open = <const F extends Fields>(fields: F,
  rules: { either?: readonly string[] } = {}): Shape<ObjectOf<F>> =>
  ({ rule: { is: 'object', fields, open: true, ...rules } })
/** The same, and its type says that there may be more. */
export const withUnknown = <const F extends Fields>(fields: F): Shape<ObjectOf<F> & { [unknown: string]: unknown }> =>
  open(fields) as Shape<ObjectOf<F> & { [unknown: string]: unknown }>
/** One of several objects, told apart by the value of one field. */
export const choice = <B extends string, const V extends Readonly<Record<string, Fields>>>(
  by: B, variants: V, rules: { open?: boolean } = {},
): Shape<ChoiceOf<B, V>> =>
  ({ rule: { is: 'choice', by, variants, open: rules.open ?? false } })
/** A field whose rule depends on another field of the same object. */
export function depending<T, U>(on: string, value: string, then: Shape<T>, otherwise: Optional<U>): Optional<T | U>
export function depending<T, U>(on: string, value: string, then: Optional<T>, otherwise: Shape<U>): Optional<T | U>
export function depending<T, U>(on: string, value: string, then: Shape<T>, otherwise: Shape<U>): Shape<T | U>
export function depending<T, U>(on: string, value: string, then: Shape<T>, otherwise: Shape<U>): Shape<T | U> {
  return { rule: { is: 'depending', on, value, then, otherwise },
    ...(then.optional || otherwise.optional ? { optional: true } : {}) }
}

export const optional = <T>(shape: Shape<T>): Optional<T> => ({ ...shape, optional: true })
export const nullable = <T>(shape: Shape<T>): Shape<T | null> => ({ ...shape, nullable: true }) as Shape<T | null>
/** May be missing in a file; there is this value then. */
export const starting = <T>(shape: Shape<T>, value: T): Shape<T> => ({ ...shape, start: { value } })
/** An object that may be missing in a file; there is one of what its fields start with then. */
export const filled = <T>(shape: Shape<T>): Shape<T> => ({ ...shape, start: 'fields' })

/** What a shape starts with, made anew at each call; the fields of an object that start with nothing are left out. */
export function startOf<T>(shape: Shape<T>): Partial<T> {
  if (shape.start === 'fields' || (!shape.start && shape.rule.is === 'object')) {
    const { fields } = shape.rule as Extract<FieldRule, { is: 'object' }>
    return Object.fromEntries(Object.entries(fields)
      .filter(([, field]) => field.start)
      .map(([name, field]) => [name, startOf(field)])) as Partial<T>
  }
  return structuredClone(shape.start?.value) as Partial<T>
}
