/** The check of the stock, before it is kept and after it was read. */
import type Joi from 'joi'
import { problemsOf, type Problem } from '../documents/failure'
import { joiOf } from '../shape/joi'
import { stockShape, type StockEntry } from './shape'

export const stockSchema = joiOf(stockShape) as Joi.Schema<StockEntry[]>

/** What is wrong with entries, by their place in the list; empty where nothing is. */
export function stockProblems(entries: readonly unknown[]): Problem[] {
  const { error } = stockSchema.validate(entries, { abortEarly: false, convert: false, errors: { label: false } })
  return problemsOf(error?.details ?? [])
}

/** Those that can be worked with, and how many cannot. */
export function soundEntries(entries: readonly unknown[]): { sound: StockEntry[], damaged: number } {
  const sound = entries.filter(entry => !stockProblems([entry]).length) as StockEntry[]
  return { sound, damaged: entries.length - sound.length }
}
