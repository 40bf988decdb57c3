/** The page on the part file says every field that the door lets through. */
import { readFileSync } from 'node:fs'
import type { Description } from 'joi'
import { describe, expect, it } from 'vitest'
import { partSchema } from '../../../core/catalogue/schemas/part'
import { PLACEHOLDERS } from '../../../core/overlays/asks/placeholders'

const page = readFileSync('docs/part-format.md', 'utf8')

/** Names of fields at any depth; those of free maps (option → value) are the maker's own. */
function fieldsOf(description: Description): string[] {
  const keys = (description.keys ?? {}) as Record<string, Description>
  const items = (description.items ?? []) as Description[]
  const matches = (description.matches ?? []) as { schema?: Description, then?: Description, otherwise?: Description }[]
  return [
    ...Object.entries(keys).flatMap(([name, inner]) => [name, ...fieldsOf(inner)]),
    ...items.flatMap(fieldsOf), ...matches.flatMap(({ schema, then, otherwise }) => [schema, then, otherwise].flatMap(inner => inner ? fieldsOf(inner) : [])),
  ]
}

describe('docs/part-format.md', () => {
  const fields = [...new Set(fieldsOf(partSchema.describe()))]

  it('finds the fields', () => {
    expect(fields.length).toBeGreaterThan(80)
    expect(fields).toEqual(expect.arrayContaining(['claimsPosition', 'passesOption', 'gives', 'whenPlaced']))
  })

  it('names each of them, and each placeholder', () => {
    expect(fields.filter(field => !page.includes(`\`${field}\``))).toEqual([])
    expect(Object.keys(PLACEHOLDERS).filter(name => !page.includes(`{${name}`))).toEqual([])
  })
})
