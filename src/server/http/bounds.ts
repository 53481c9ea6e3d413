import type { Schema, SchemaDescription } from 'yup'
import { fieldProblem, ProblemError } from './problem.ts'

/** How deep a body may be nested, and how many values it may hold in all. */
const DEEPEST = 12
const MOST_VALUES = 120_000
/** Names that one object may have: reading very many different ones costs far more than as many values. */
const MOST_NAMES = 5_000
/** Items of a list whose schema says no number. */
const MOST_ITEMS = 5_000

/** Characters of a text whose schema says no number: a code, a key, a time, an address. */
const MOST_UNSAID = 1_000
/** Blanks that may stand around a text. */
const AROUND = 1_000

/** Names that never are a field of ours, and that code could take for something else: what every object has. */
const RESERVED = new Set([...Object.getOwnPropertyNames(Object.prototype), 'prototype', 'toJSON', 'then'])

/** How long the lists of a body may be, and where its texts are, read from its schema once. */
export interface Bounds {
  /**
   * Where it is a text, how long it may be before it is looked at, and what its schema says. Whatever has parts is no text,
   * and its schema is not asked to make one of it.
   */
  text: { most: number; said: number } | null
  list: { most: number; message: string; items: Bounds | null } | null
  fields: ReadonlyMap<string, Bounds>
}

/** The bounds of a schema; null where nothing in it is a list or a text. */
export function boundsOf(schema: Schema): Bounds | null {
  return boundsIn(schema.describe() as SchemaDescription)
}

type Described = SchemaDescription & {
  fields?: Record<string, Described>
  innerType?: Described | Described[]
}

function boundsIn(described: Described): Bounds | null {
  if (described.type === 'array') {
    const rule = described.tests.find(({ name }) => name === 'max')
    const most = Number(rule?.params?.max ?? MOST_ITEMS)
    const inner = Array.isArray(described.innerType) ? described.innerType[0] : described.innerType
    const message = `There are more than ${most.toLocaleString('en')}. Send fewer at once.`
    return { text: null, list: { most, message, items: inner ? boundsIn(inner) : null }, fields: new Map() }
  }
  if (described.type === 'string') {
    const rule = described.tests.find(({ name }) => name === 'max')
    // Blanks around it may be taken off before it is counted.
    const said = Number(rule?.params?.max ?? MOST_UNSAID)
    return { text: { most: rule ? 2 * said + AROUND : said, said }, list: null, fields: new Map() }
  }
  const fields = new Map<string, Bounds>()
  for (const [name, field] of Object.entries(described.fields ?? {})) {
    const bounds = boundsIn(field)
    if (bounds) fields.set(name, bounds)
  }
  return fields.size > 0 ? { text: null, list: null, fields } : null
}

/**
 * Refuses a body whose lists or texts are longer than its schema allows, or that has something with parts where a text belongs,
 * before anything in it is looked at: what refuses must never cost more than what is allowed, nor break.
 * @throws ProblemError `body-invalid` beside the list or the text
 */
export function checkLengths(bounds: Bounds, value: unknown, path = ''): void {
  if (bounds.text !== null) {
    if (typeof value === 'object' && value !== null)
      throw fieldProblem(path, 'That is not a text: a string belongs here.')
    const { most, said } = bounds.text
    if (typeof value === 'string' && value.length > most)
      throw fieldProblem(
        path,
        `That is far too long: it has ${value.length.toLocaleString('en')} characters, and ${said.toLocaleString('en')} are the most.`,
      )
    return
  }
  if (bounds.list) {
    if (!Array.isArray(value)) return
    const { most, message, items } = bounds.list
    if (value.length > most) throw fieldProblem(path, message)
    if (items) for (const [i, item] of value.entries()) checkLengths(items, item, `${path}[${i}]`)
    return
  }
  if (typeof value !== 'object' || value === null) return
  for (const [name, field] of bounds.fields)
    checkLengths(field, (value as Record<string, unknown>)[name], path === '' ? name : `${path}.${name}`)
}

/**
 * Refuses a body that is nested deeper, or holds more values, than anything of ours.
 * @throws ProblemError `body-malformed`
 */
export function checkShape(body: unknown): void {
  let left = MOST_VALUES
  const open: [value: unknown, depth: number][] = [[body, 0]]
  for (let next = open.pop(); next; next = open.pop()) {
    const [value, depth] = next
    if (typeof value !== 'object' || value === null) continue
    if (depth >= DEEPEST) throw malformed('It is nested too deep.')
    const list = Array.isArray(value)
    const names = list ? null : Object.keys(value)
    left -= names ? names.length : (value as unknown[]).length
    if (left < 0) throw malformed('It holds too much at once.')
    if (names?.some((name) => RESERVED.has(name))) throw malformed('A name in it cannot be used.')
    for (const inner of list ? (value as unknown[]) : Object.values(value))
      if (typeof inner === 'object' && inner !== null) open.push([inner, depth + 1])
  }
}

const [QUOTE, ESCAPE, COMMA, COLON] = [0x22, 0x5c, 0x2c, 0x3a]
const [OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [0x5b, 0x5d, 0x7b, 0x7d]

/**
 * Refuses a body by its bytes, before it is parsed: parsing alone would hold the server for longer than everything
 * after it. Counts what stands outside of texts (RFC 8259); whether it is JSON at all, the parser says.
 * @throws ProblemError `body-malformed`
 */
export function checkBytes(bytes: Uint8Array): void {
  let values = 0
  let depth = 0
  let inText = false
  const names = new Uint32Array(DEEPEST + 1)
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]
    if (inText) {
      if (byte === ESCAPE) i += 1
      else if (byte === QUOTE) inText = false
    } else if (byte === QUOTE) inText = true
    else if (byte === COMMA) values += 1
    else if (byte === COLON) {
      names[depth]! += 1
      if (names[depth]! > MOST_NAMES) throw malformed('One object in it has too many names.')
    } else if (byte === OPEN_LIST || byte === OPEN_OBJECT) {
      values += 1
      depth += 1
      if (depth > DEEPEST) throw malformed('It is nested too deep.')
      names[depth] = 0
    } else if (byte === CLOSE_LIST || byte === CLOSE_OBJECT) depth = Math.max(0, depth - 1)
    if (values > MOST_VALUES) throw malformed('It holds too much at once.')
  }
}

function malformed(why: string): ProblemError {
  return new ProblemError('body-malformed', `The request’s body cannot be taken. ${why}`)
}
