// The HTTP API for programs as OpenAPI 3.1.0 (OpenAPI Initiative), made from the contract.

/** The title and the words above the operations of each file of the contract. */
const WORDS =
  'What a program can do in a course of Haplon with a token that an instructor made for it. It acts as that instructor, ' +
  'in that one course; a token that may only read is refused whatever is not GET. Texts are UTF-8, times that are sent ' +
  'are wall-clock times in the zone of the course (`2026-05-13T17:00`), moments that are answered are UTC (ISO 8601). ' +
  'A “no” is a problem (RFC 9457) whose `code` stays and whose `detail` says what is wrong and what to do.'

/**
 * Describes the routes that programs may call.
 * @param modules the files of the contract, loaded, by their names
 * @param answers what `answersOfContract` gives
 * @param problems codes of all problems, with status and title
 * @param forPrograms whether a program may call a route
 */
export function openApi({ modules, answers, problems, forPrograms }) {
  const paths = {}
  const used = new Set()
  for (const [file, module] of Object.entries(modules)) {
    for (const [name, route] of Object.entries(module)) {
      if (!isRoute(route) || !forPrograms(route)) continue
      const key = `${file}.${name}`
      const path = route.path.replace(/:(\w+)/g, '{$1}')
      paths[path] ??= {}
      paths[path][route.method.toLowerCase()] = operation(key, route, answers)
      for (const found of namesIn(answers.answers[key] ?? {})) used.add(found)
    }
  }
  const schemas = { Problem: problemSchema(problems), ...reached(used, answers.definitions) }
  return {
    openapi: '3.1.0',
    info: { title: 'Haplon', version: '1', description: WORDS },
    servers: [{ url: '/' }],
    security: [{ token: [] }],
    tags: [
      ...new Set(Object.values(paths).flatMap((path) => Object.values(path).flatMap(({ tags }) => tags))),
    ].map((name) => ({ name })),
    paths,
    components: {
      securitySchemes: {
        token: {
          type: 'http',
          scheme: 'bearer',
          description: 'A token of a course, from its page Programs.',
        },
      },
      schemas,
    },
  }
}

/** A name of the code as words: `addSheet` is “Add sheet”. */
const inWords = (name) =>
  name
    .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)
    .replace(/^./, (letter) => letter.toUpperCase())

const isRoute = (value) =>
  typeof value === 'object' && value !== null && 'method' in value && 'path' in value && 'who' in value

function operation(key, route, { words, answers }) {
  const [tag, name] = key.split('.')
  const answer = answers[key]
  const content = answer
    ? { 'application/json': { schema: modern(answer) } }
    : { '*/*': { schema: { description: 'A file.' } } }
  const said = words[key] ?? ''
  return {
    operationId: name,
    tags: [tag],
    summary: said === '' ? inWords(name) : (said.split(/(?<=[.:;]) /)[0] ?? '').replace(/[.:;]$/, ''),
    ...(said !== '' && { description: said }),
    'x-who': route.who,
    parameters: [...route.path.matchAll(/:(\w+)/g)].map(([, one]) => ({
      name: one,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    })),
    ...(route.body && {
      requestBody: {
        required: true,
        content: { 'application/json': { schema: bodySchema(route.body.describe()) } },
      },
    }),
    responses: {
      200: { description: 'Done.', content },
      default: {
        description: 'No, and why.',
        content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
      },
    },
  }
}

function problemSchema(problems) {
  return {
    type: 'object',
    properties: {
      type: { type: 'string' },
      code: { enum: Object.keys(problems) },
      title: { type: 'string' },
      status: { type: 'integer' },
      detail: { type: 'string' },
      errors: {
        type: 'array',
        items: {
          type: 'object',
          properties: { path: { type: 'string' }, message: { type: 'string' } },
          required: ['path', 'message'],
        },
      },
    },
    required: ['type', 'code', 'title', 'status', 'detail'],
  }
}

/** A body as Yup describes it, as a JSON Schema. What a schema checks beyond that is said by the problem that answers it. */
function bodySchema(described) {
  const { type, fields, innerType, oneOf, nullable, meta, tests } = described
  if (meta?.json) return orNull(meta.json, nullable)
  if (meta?.codes)
    return orNull({ type: 'array', items: { type: 'string' }, ...bounds(tests, 'Items') }, nullable)
  if (type === 'object') {
    const properties = Object.fromEntries(
      Object.entries(fields).map(([name, field]) => [name, bodySchema(field)]),
    )
    const required = Object.entries(fields).flatMap(([name, field]) =>
      field.optional === false ? [name] : [],
    )
    return orNull({ type: 'object', properties, ...(required.length > 0 && { required }) }, nullable)
  }
  if (type === 'array') {
    const items = innerType ? bodySchema(Array.isArray(innerType) ? innerType[0] : innerType) : {}
    return orNull({ type: 'array', items, ...bounds(tests, 'Items') }, nullable)
  }
  const values = (oneOf ?? []).filter((value) => value !== null)
  if (values.length > 0) return nullable ? { enum: [...values, null] } : { enum: values }
  if (type === 'string') return orNull({ type, ...bounds(tests, 'Length'), ...pattern(tests) }, nullable)
  if (type === 'number') {
    const whole = tests.some(({ name }) => name === 'integer')
    return orNull({ type: whole ? 'integer' : 'number', ...range(tests) }, nullable)
  }
  if (type === 'boolean') return orNull({ type }, nullable)
  return {}
}

const orNull = (schema, nullable) => (nullable ? { anyOf: [schema, { type: 'null' }] } : schema)

const paramOf = (tests, test, param) => tests.find(({ name }) => name === test)?.params?.[param]

function bounds(tests, what) {
  const [min, max] = [paramOf(tests, 'min', 'min'), paramOf(tests, 'max', 'max')]
  return {
    ...(min !== undefined && { [`min${what}`]: min }),
    ...(max !== undefined && { [`max${what}`]: max }),
  }
}

function range(tests) {
  const [min, max] = [paramOf(tests, 'min', 'min'), paramOf(tests, 'max', 'max')]
  return { ...(min !== undefined && { minimum: min }), ...(max !== undefined && { maximum: max }) }
}

function pattern(tests) {
  const regex = paramOf(tests, 'matches', 'regex')
  return regex instanceof RegExp && regex.flags === '' ? { pattern: regex.source } : {}
}

/** A schema of draft 7 in the words of 2020-12, which OpenAPI 3.1 uses, its references to where schemas stand there. */
function modern(schema) {
  if (Array.isArray(schema)) return schema.map(modern)
  if (typeof schema !== 'object' || schema === null) return schema
  const entries = Object.entries(schema).map(([key, value]) => {
    if (key === '$ref') return [key, referred(value)]
    if (key === 'items' && Array.isArray(value)) return ['prefixItems', value.map(modern)]
    return [key, modern(value)]
  })
  return Object.fromEntries(entries)
}

const nameOf = (reference) => decodeURIComponent(reference.replace('#/definitions/', ''))
const tidy = (name) => name.replace(/[^\w.-]+/g, '_')
const referred = (reference) => `#/components/schemas/${tidy(nameOf(reference))}`

/** The definitions that a schema names. */
function namesIn(schema) {
  const names = []
  JSON.stringify(schema, (key, value) => {
    if (key === '$ref') names.push(nameOf(value))
    return value
  })
  return names
}

/** All definitions that some of them lead to. */
function reached(first, definitions) {
  const seen = new Set(first)
  for (const name of seen) for (const next of namesIn(definitions[name] ?? {})) seen.add(next)
  return Object.fromEntries([...seen].toSorted().map((name) => [tidy(name), modern(definitions[name] ?? {})]))
}
