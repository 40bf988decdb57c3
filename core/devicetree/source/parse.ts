/**
 * The grammar of Devicetree source v1 (Devicetree Specification v0.4, appendix A) with `/plugin/`. Errors say line,
 * column and what was expected.
 */
import { DeviceTreeError, MAX_DEPTH, type SourcePlace } from '../types'
import { noNumber, numberOf, readExpression, type TokenStream } from './expression'
import { Tokens } from './tokens'
import type { Files, Token } from './types'
import {
  bury, emptyNode, mergeInto, nodeOn, settle, type Labels, type Piece, type Reference, type Source, type SourceNode,
  type SourceProperty,
} from './tree'

export const NO_FILES: Files = { read: () => null }

/** Reads a source text. Throws `DeviceTreeError` with the place of the first fault. */
export function parseSource(text: string, file = 'source.dts', files: Files = NO_FILES): Source {
  return new Parser(new Tokens(text, file, files)).source()
}

const found = (token: Token) => token.kind === 'end' ? token.text : `"${token.text}"`

class Parser implements TokenStream {
  private ahead: { token: Token, names: boolean } | null = null
  /** Where each label of the tree stands so far. */
  private readonly where: Labels = new Map()

  constructor(private readonly tokens: Tokens) {}

  get absent(): readonly string[] {
    return this.tokens.absent
  }

  peek(names = false): Token {
    if (this.ahead && this.ahead.names !== names) throw new Error('a token was read ahead for another place')
    this.ahead ??= { token: this.tokens.next(names), names }
    return this.ahead.token
  }

  take(names = false): Token {
    const token = this.peek(names)
    this.ahead = null
    return token
  }

  private expect(kind: Token['kind'], text: string, what = `"${text}"`, names = false): Token {
    const token = this.take(names)
    if (token.kind !== kind || token.text !== text) {
      throw new DeviceTreeError('syntax', `expected ${what}, found ${found(token)}`, { place: token.place })
    }
    return token
  }

  source(): Source {
    const source: Source = { plugin: false, reservations: [], root: emptyNode('', this.tokens.place()) }
    this.expect('directive', '/dts-v1/', '/dts-v1/; at the beginning', true)
    this.expect('mark', ';', undefined, true)
    for (;;) {
      const token = this.peek(true)
      if (token.kind !== 'directive' || (token.text !== '/dts-v1/' && token.text !== '/plugin/')) break
      this.take(true)
      this.expect('mark', ';', undefined, true)
      if (token.text === '/plugin/') source.plugin = true
    }
    let fragments = 0
    let rooted = false
    let anything = false
    for (;;) {
      const labels = this.labels()
      const token = this.take(true)
      if (token.kind === 'end') {
        if (labels.length) throw new DeviceTreeError('syntax', 'expected a node after the label',
          { place: token.place })
        if (!anything) throw new DeviceTreeError('syntax', 'expected the root node: / { … };', { place: token.place })
        this.complete(source.root)
        return source
      }
      if (token.kind === 'directive' && token.text === '/memreserve/') {
        source.reservations.push({ address: this.wide(), size: this.wide() })
        this.expect('mark', ';', undefined, true)
        continue
      }
      anything = true
      if (token.kind === 'mark' && token.text === '/') {
        const node = this.body('', labels, token.place, 1)
        if (!rooted) settle(node, new Map())
        rooted = true
        mergeInto(source.root, node, this.where)
      }
      else if (token.kind === 'ref' || token.kind === 'pathRef') {
        const to: Reference = token.kind === 'ref' ? { label: token.text } : { path: token.text }
        const node = this.body('', labels, token.place, 1)
        if (source.plugin && !labels.length) source.root.children.push(fragment(fragments++, to, node, token.place,
          this.where))
        else mergeInto(this.target(source.root, to, token.place), node, this.where)
      }
      else if (token.kind === 'directive' && (token.text === '/delete-node/' || token.text === '/omit-if-no-ref/')) {
        const ref = this.take(true)
        if (ref.kind !== 'ref' && ref.kind !== 'pathRef') {
          throw new DeviceTreeError('syntax', `expected a reference after ${token.text}, found ${found(ref)}`,
            { place: ref.place })
        }
        const node = this.target(source.root, ref.kind === 'ref' ? { label: ref.text } : { path: ref.text }, ref.place)
        if (token.text === '/omit-if-no-ref/') node.omitIfNoRef = true
        else bury(node, this.where)
        this.expect('mark', ';', undefined, true)
      }
      else throw new DeviceTreeError('syntax', `expected / { or a reference to a node, found ${found(token)}`,
        { place: token.place })
    }
  }

  private target(root: SourceNode, to: Reference, place: SourcePlace): SourceNode {
    const there = 'label' in to ? this.where.get(to.label) : nodeOn(root, to.path)
    if (!there) {
      throw new DeviceTreeError(
        'reference', `${'label' in to ? `no node has the label ${to.label}` : `there is no node ${to.path}`} so far`,
        { place },
      )
    }
    return there
  }

  private labels(): string[] {
    const labels: string[] = []
    while (this.peek(true).kind === 'label') labels.push(this.take(true).text)
    return labels
  }

  /** `{ … };` with properties before children. */
  private body(name: string, labels: string[], place: SourcePlace, depth: number): SourceNode {
    if (depth > MAX_DEPTH) throw new DeviceTreeError('limit', `nodes are nested deeper than ${MAX_DEPTH}`, { place })
    this.expect('mark', '{', undefined, true)
    const node: SourceNode = { ...emptyNode(name, place), labels }
    for (;;) {
      const own = this.labels()
      const token = this.take(true)
      if (token.kind === 'mark' && token.text === '}' && !own.length) break
      if (token.kind === 'directive' && token.text === '/delete-property/') {
        node.properties.push({ name: this.name('a property name'), labels: own, pieces: [], place: token.place,
          deleted: true })
        this.expect('mark', ';', undefined, true)
      }
      else if (token.kind === 'directive' && token.text === '/delete-node/') {
        node.children.push({ ...emptyNode(this.name('a node name'), token.place), deleted: true })
        this.expect('mark', ';', undefined, true)
      }
      else if (token.kind === 'directive' && token.text === '/omit-if-no-ref/') {
        const labelled = this.labels()
        this.child(node, this.take(true), labelled, depth, true)
      }
      else if (token.kind === 'name') this.propertyOrChild(node, token, own, depth)
      else throw new DeviceTreeError('syntax', `expected a property, a node or }, found ${found(token)}`,
        { place: token.place })
    }
    this.expect('mark', ';', '"};" at the end of the node', true)
    return node
  }

  private name(what: string): string {
    const token = this.take(true)
    if (token.kind !== 'name') throw new DeviceTreeError('syntax', `expected ${what}, found ${found(token)}`,
      { place: token.place })
    return token.text
  }

  private propertyOrChild(node: SourceNode, name: Token, labels: string[], depth: number): void {
    const next = this.peek(true)
    if (next.kind === 'mark' && next.text === '{') return this.child(node, name, labels, depth, false)
    if (node.children.length) {
      throw new DeviceTreeError('syntax', `properties stand before nodes: "${name.text}" comes after a node`,
        { place: name.place })
    }
    const property: SourceProperty = { name: name.text, labels, pieces: [], place: name.place, deleted: false }
    this.take(true)
    if (next.kind === 'mark' && next.text === '=') {
      property.pieces = this.values(property)
    }
    else if (next.kind !== 'mark' || next.text !== ';') {
      throw new DeviceTreeError('syntax', `expected =, ; or { after "${name.text}", found ${found(next)}`,
        { place: next.place })
    }
    node.properties.push(property)
  }

  private child(node: SourceNode, name: Token, labels: string[], depth: number, omitIfNoRef: boolean): void {
    if (name.kind !== 'name') throw new DeviceTreeError('syntax', `expected a node name, found ${found(name)}`,
      { place: name.place })
    const child = this.body(name.text, labels, name.place, depth + 1)
    child.omitIfNoRef = omitIfNoRef
    node.children.push(child)
  }

  /** Values up to the semicolon. */
  private values({ labels }: SourceProperty): Piece[] {
    const pieces: Piece[] = []
    for (;;) {
      const token = this.take()
      if (token.kind === 'label') {
        labels.push(token.text)
        continue
      }
      if (token.kind === 'string') pieces.push({
        kind: 'bytes', bytes: Uint8Array.from([...token.text, '\0'], letter => letter.charCodeAt(0)),
      })
      else if (token.kind === 'ref') pieces.push({ kind: 'path', to: { label: token.text }, place: token.place })
      else if (token.kind === 'pathRef') pieces.push({ kind: 'path', to: { path: token.text }, place: token.place })
      else if (token.kind === 'mark' && token.text === '<') this.cells(pieces, 32)
      else if (token.kind === 'mark'
        && token.text === '[') pieces.push({ kind: 'bytes', bytes: Uint8Array.from(this.tokens.bytes()) })
      else if (token.kind === 'directive' && token.text === '/bits/') {
        const bits = Number(this.wide(false))
        if (![8, 16, 32, 64].includes(bits)) throw new DeviceTreeError('value', '/bits/ takes 8, 16, 32 or 64',
          { place: token.place })
        this.expect('mark', '<')
        this.cells(pieces, bits)
      }
      else if (token.kind === 'directive'
        && token.text === '/incbin/') pieces.push({ kind: 'bytes', bytes: this.incbin(token.place) })
      else throw new DeviceTreeError(
        'syntax', `expected a value: "text", <cells>, [bytes] or a reference; found ${found(token)}`,
        { place: token.place },
      )
      while (this.peek().kind === 'label') labels.push(this.take().text)
      const after = this.take()
      if (after.kind === 'mark' && after.text === ';') return pieces
      if (after.kind !== 'mark' || after.text !== ',') {
        throw new DeviceTreeError('syntax', `expected , or ; after the value, found ${found(after)}`,
          { place: after.place })
      }
    }
  }

  /** `("file")` or `("file", offset, size)` after /incbin/. */
  private incbin(place: SourcePlace): Uint8Array {
    this.expect('mark', '(')
    const name = this.take()
    if (name.kind !== 'string') throw new DeviceTreeError('syntax', `expected "file", found ${found(name)}`,
      { place: name.place })
    const bytes = this.tokens.binary(name.text, place)
    const after = this.take()
    if (after.kind === 'mark' && after.text === ')') return bytes
    if (after.kind !== 'mark' || after.text !== ',') {
      throw new DeviceTreeError('syntax', `expected , or ) after "${name.text}", found ${found(after)}`,
        { place: after.place })
    }
    const from = Number(this.wide())
    this.expect('mark', ',')
    const size = Number(this.wide())
    this.expect('mark', ')')
    if (from + size > bytes.length) {
      throw new DeviceTreeError('value', `"${name.text}" has ${bytes.length} bytes, and ${from + size} are asked for`,
        { place })
    }
    return bytes.slice(from, from + size)
  }

  private cells(pieces: Piece[], bits: number): void {
    const bytes: number[] = []
    const flush = () => {
      if (bytes.length) pieces.push({ kind: 'bytes', bytes: Uint8Array.from(bytes.splice(0)) })
    }
    let empty = true
    for (;;) {
      const token = this.peek()
      if (token.kind === 'mark' && token.text === '>') {
        this.take()
        flush()
        if (empty) pieces.push({ kind: 'bytes', bytes: new Uint8Array() })
        return
      }
      empty = false
      if (token.kind === 'label') this.take()
      else if (token.kind === 'ref' || token.kind === 'pathRef') {
        this.take()
        if (bits !== 32) throw new DeviceTreeError('value', 'a reference takes a cell of 32 bits',
          { place: token.place })
        flush()
        pieces.push({ kind: 'phandle', to: token.kind === 'ref' ? { label: token.text } : { path: token.text },
          place: token.place })
      }
      else bytes.push(...this.cell(bits))
    }
  }

  private cell(bits: number): number[] {
    const token = this.peek()
    if (token.kind !== 'number' && token.kind !== 'char' && !(token.kind === 'mark' && token.text === '(')) {
      throw noNumber(token, 'expected a number, a reference, (an expression) or >', this.absent)
    }
    const value = this.primary()
    const mask = (1n << BigInt(bits)) - 1n
    // A number below zero fits when all bits above the cell are set.
    if (value > mask && (value | mask) !== 0xFFFFFFFFFFFFFFFFn) {
      throw new DeviceTreeError('value', `${value} does not fit into ${bits} bits`, { place: token.place })
    }
    return Array.from({ length: bits / 8 }, (_, i) => Number((value >> BigInt(bits - 8 * (i + 1))) & 0xFFn))
  }

  private primary(): bigint {
    const token = this.take()
    if (token.kind === 'number') return numberOf(token)
    if (token.kind === 'char') return BigInt(token.text.charCodeAt(0))
    const value = readExpression(this)
    this.expect('mark', ')')
    return value
  }

  /** A number of 64 bits, or an expression between parentheses. */
  private wide(inValue = false): bigint {
    const token = this.take(inValue)
    if (token.kind === 'number') return numberOf(token)
    if (token.kind === 'mark' && token.text === '(') {
      const value = readExpression(this)
      this.expect('mark', ')')
      return value
    }
    throw noNumber(token, 'expected a number', this.absent)
  }

  /** Labels are unique in a tree. */
  private complete(root: SourceNode): void {
    const seen = new Map<string, SourceNode>()
    const visit = (node: SourceNode) => {
      for (const label of node.labels) {
        const before = seen.get(label)
        if (before && before !== node) throw new DeviceTreeError('reference', `the label ${label} stands twice`,
          { place: node.place })
        seen.set(label, node)
      }
      node.properties = node.properties.filter(property => !property.deleted)
      node.children = node.children.filter(child => !child.deleted)
      node.children.forEach(visit)
    }
    visit(root)
  }
}

/** What `&label { }` of an overlay becomes. */
function fragment(number: number, to: Reference, node: SourceNode, place: SourcePlace, labels: Labels): SourceNode {
  const target: SourceProperty = 'label' in to
    ? { name: 'target', labels: [], pieces: [{ kind: 'phandle', to, place }], place, deleted: false }
    : {
        name: 'target-path', labels: [],
        pieces: [{ kind: 'bytes', bytes: Uint8Array.from([...to.path, '\0'], letter => letter.charCodeAt(0)) }], place,
        deleted: false,
      }
  settle(node, labels)
  return { ...emptyNode(`fragment@${number}`, place), properties: [target],
    children: [{ ...node, name: '__overlay__' }] }
}
