/** The page on the part file says every field that the door lets through. */
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { partShape } from '../../../core/catalogue/shapes/part'
import type { Fields, Shape } from '../../../core/shape/shape'
import { PLACEHOLDERS } from '../../../core/overlays/asks/placeholders'

const page = readFileSync('docs/part-format.md', 'utf8')

/** Names of fields at any depth; those of free maps (option → value) are the maker's own. */
function fieldsOf({ rule }: Shape<unknown>): string[] {
  const inside = (fields: Fields) => Object.entries(fields).flatMap(([name, inner]) => [name, ...fieldsOf(inner)])
  switch (rule.is) {
    case 'object': return inside(rule.fields)
    case 'choice': return [rule.by, ...Object.values(rule.variants).flatMap(inside)]
    case 'list': case 'map': return fieldsOf(rule.of)
    case 'depending': return [...fieldsOf(rule.then), ...fieldsOf(rule.otherwise)]
    default: return []
  }
}

describe('docs/part-format.md', () => {
  const fields = [...new Set(fieldsOf(partShape))]

  it('finds the fields', () => {
    expect(fields.length).toBeGreaterThan(80)
    expect(fields).toEqual(expect.arrayContaining(['claimsPosition', 'passesOption', 'gives', 'whenPlaced']))
  })

  it('names each of them, and each placeholder', () => {
    expect(fields.filter(field => !page.includes(`\`${field}\``))).toEqual([])
    expect(Object.keys(PLACEHOLDERS).filter(name => !page.includes(`{${name}`))).toEqual([])
  })
})
