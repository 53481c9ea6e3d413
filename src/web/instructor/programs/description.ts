/** A schema of the description, as far as it is shown. */
export interface Shape {
  type?: string | string[]
  properties?: Record<string, Shape>
  required?: string[]
  items?: Shape
  enum?: unknown[]
  const?: unknown
  anyOf?: Shape[]
  $ref?: string
  description?: string
  format?: string
  pattern?: string
  minLength?: number
  maxLength?: number
  minimum?: number
  maximum?: number
  minItems?: number
  maxItems?: number
  additionalProperties?: boolean | Shape
}

/** One operation: what is asked where, with what, and what is answered. */
export interface Operation {
  method: string
  path: string
  id: string
  /** The subject it belongs to. */
  subject: string
  summary: string
  description: string
  body: Shape | null
  answer: Shape | null
}

/** What of an OpenAPI description is read here. */
export interface Description {
  info: { description: string }
  paths: Record<
    string,
    Record<
      string,
      {
        operationId: string
        tags: string[]
        summary: string
        description?: string
        requestBody?: { content: Record<string, { schema: Shape }> }
        responses: Record<string, { content: Record<string, { schema: Shape }> }>
      }
    >
  >
  components: { schemas: Record<string, Shape> }
}

/** The operations of a description, by subject and in its order. */
export function operationsOf({ paths }: Description): Operation[] {
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, one]) => ({
      method: method.toUpperCase(),
      path,
      id: one.operationId,
      subject: one.tags[0] ?? '',
      summary: one.summary,
      description: one.description ?? '',
      body: one.requestBody?.content['application/json']?.schema ?? null,
      answer: one.responses['200']?.content['application/json']?.schema ?? null,
    })),
  )
}

/** One line of a shape: a field, how deep it stands, what it holds. */
export interface FieldLine {
  path: string
  deep: number
  name: string
  holds: string
  needed: boolean
  words: string
}

/** How deep fields within fields are shown. */
const DEEPEST = 4

/** The fields of a shape, line by line; what names itself again is not gone into twice. */
export function fieldsOf(shape: Shape, named: Record<string, Shape>): FieldLine[] {
  const lines: FieldLine[] = []
  const walk = (one: Shape, at: string, deep: number, within: readonly string[]) => {
    const { shape: found, names } = resolved(one, named)
    if (names.some((name) => within.includes(name)) || deep > DEEPEST) return
    const inside = [...within, ...names]
    for (const part of found.anyOf ?? []) walk(part, at, deep, inside)
    if (found.items) walk(found.items, at, deep, inside)
    if (typeof found.additionalProperties === 'object') walk(found.additionalProperties, at, deep, inside)
    for (const [name, field] of Object.entries(found.properties ?? {})) {
      const path = at === '' ? name : `${at}.${name}`
      const needed = found.required?.includes(name) ?? false
      const words = field.description ?? resolved(field, named).shape.description ?? ''
      lines.push({ path, deep, name, holds: holdsOf(field, named), needed, words })
      walk(field, path, deep + 1, inside)
    }
  }
  walk(shape, '', 0, [])
  return lines.filter(({ path }, i) => lines.findIndex((line) => line.path === path) === i)
}

function resolved(shape: Shape, named: Record<string, Shape>): { shape: Shape; names: string[] } {
  const names: string[] = []
  let found = shape
  while (found.$ref && names.length < 20) {
    const name = found.$ref.split('/').at(-1) ?? ''
    names.push(name)
    found = named[name] ?? {}
  }
  return { shape: found, names }
}

/** What a shape holds, in a few words: `text, at most 120`, `list of objects`, `“read” or “write”`. */
export function holdsOf(shape: Shape, named: Record<string, Shape>): string {
  const { shape: found } = resolved(shape, named)
  if (found.anyOf) return [...new Set(found.anyOf.map((one) => holdsOf(one, named)))].join(' or ')
  if (found.const !== undefined) return said(found.const)
  if (found.enum) return found.enum.map(said).join(' or ')
  if (Array.isArray(found.type))
    return found.type.map((type) => holdsOf({ ...found, type }, named)).join(' or ')
  switch (found.type) {
    case 'string':
      return ['text', most('at least', found.minLength), most('at most', found.maxLength)]
        .filter(Boolean)
        .join(', ')
    case 'integer':
      return ['whole number', most('from', found.minimum), most('to', found.maximum)]
        .filter(Boolean)
        .join(' ')
    case 'number':
      return ['number', most('from', found.minimum), most('to', found.maximum)].filter(Boolean).join(' ')
    case 'boolean':
      return 'true or false'
    case 'null':
      return 'nothing'
    case 'array':
      return found.items ? `list of ${holdsOf(found.items, named)}` : 'list'
    case 'object':
      return found.properties ? 'fields' : 'fields of any name'
    default:
      return 'anything'
  }
}

const said = (value: unknown) =>
  typeof value === 'string' ? `“${value}”` : value === null ? 'nothing' : String(value)

const most = (words: string, limit: number | undefined) => (limit === undefined ? '' : `${words} ${limit}`)
