import type { Schema, SchemaDescription } from 'yup'

/** Numbers of one seed, from 0 to below 1 (mulberry32): the same seed gives the same run. */
export function createChance(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
}

type Described = SchemaDescription & {
  fields?: Record<string, Described>
  innerType?: Described | Described[]
}

/** Values that nobody means. */
const ODD: readonly unknown[] = [
  null,
  true,
  0,
  -1,
  1e308,
  1.5,
  '',
  ' ',
  '\u0000',
  'a\u202eb',
  '🧫'.repeat(40),
  'x'.repeat(5_000),
  '__proto__',
  "'; DROP TABLE seat; --",
  '<img src=x onerror=alert(1)>',
  '../../etc/passwd',
  [],
  [[]],
  {},
  { toString: 1 },
  { length: 1e9 },
]
const TEXTS = ['Tempeh', 'name,email\nAda,ada@school.example', '2026-05-13T09:00', 'ada@school.example', '1']

export interface Made {
  chance: () => number
  /** Codes of what is there, so that most bodies are about something. */
  codes: readonly string[]
}

const pick = <T>(list: readonly T[], chance: () => number): T => list[Math.floor(chance() * list.length)] as T

/** A body made from a route's own schema: mostly as it should be, and now and then not, at any depth. */
export function bodyFor(schema: Schema, made: Made): unknown {
  return valueFor(schema.describe() as Described, made, 0)
}

function valueFor(described: Described, made: Made, depth: number): unknown {
  const { chance } = made
  if (chance() < 0.06) return pick(ODD, chance)
  const choices = described.oneOf.filter((one) => one !== undefined)
  if (choices.length > 0) return pick(choices, chance)
  switch (described.type) {
    case 'object':
      return objectFor(described, made, depth)
    case 'array': {
      const inner = Array.isArray(described.innerType) ? described.innerType[0] : described.innerType
      const length = chance() < 0.03 ? 300 : Math.floor(chance() * 4)
      const aCode = (described.meta as { codes?: boolean } | undefined)?.codes && chance() < 0.95
      return Array.from({ length }, () =>
        inner ? valueFor(inner, made, depth + 1) : pick<unknown>(aCode ? made.codes : ODD, chance),
      )
    }
    case 'number':
      return pick([0, 1, 2, 3, 10, 600, -5, 1.5, 1e9], chance)
    case 'boolean':
      return chance() < 0.5
    case 'string':
      return chance() < 0.6 ? pick(made.codes, chance) : pick(TEXTS, chance)
    default:
      return chance() < 0.5 ? pick(made.codes, chance) : pick(ODD, chance)
  }
}

function objectFor({ fields = {} }: Described, made: Made, depth: number): Record<string, unknown> {
  const { chance } = made
  const body: Record<string, unknown> = {}
  for (const [name, field] of Object.entries(fields))
    if (chance() < 0.85) body[name] = valueFor(field, made, depth + 1)
  if (chance() < 0.05) body[`n${Math.floor(chance() * 9)}`] = pick(ODD, chance)
  return body
}
