import { setImmediate as nextTurn } from 'node:timers/promises'
import { type AnyObject, type ArraySchema, mixed, type ObjectSchema, type Schema, ValidationError } from 'yup'
import { MOST_TOLD } from './problem.ts'

/** Milliseconds for which the items of a list are checked before others get their turn. */
const TURN = 8
const OPTIONS = { abortEarly: false, stripUnknown: true, disableStackTrace: true } as const

/**
 * Makes the check of the bodies of one schema: what it gives is the body as the schema casts it, without what the
 * schema does not know. Lists of objects are checked item by item, some milliseconds in each turn of the event loop, so
 * that nobody waits for somebody else's long list; the rules about a list as a whole, and everything else, in one go.
 * @throws ValidationError with every fault and its path; of a long list, with as many as are told
 */
export function checkInTurns<Body>(schema: Schema<Body>): (body: unknown) => Body | Promise<Body> {
  const lists = listsOfObjects(schema)
  if (lists.length === 0) return (body) => schema.validateSync(body, OPTIONS)
  const withoutItems = (schema as unknown as ObjectSchema<AnyObject>).shape(
    Object.fromEntries(lists.map(({ name, list }) => [name, list.of(mixed())])),
  )
  return async (body) => {
    if (typeof body !== 'object' || body === null || Array.isArray(body))
      return schema.validateSync(body, OPTIONS)
    const faults: ValidationError[] = []
    const cast: AnyObject = { ...body }
    for (const { name, items } of lists)
      if (Array.isArray(cast[name])) cast[name] = await checkItems(items, cast[name], name, faults)
    const whole = noting(faults, () => withoutItems.validateSync(cast, OPTIONS))
    if (faults.length > 0) throw new ValidationError(faults)
    return whole as Body
  }
}

function listsOfObjects(schema: Schema) {
  const { fields = {} } = schema as unknown as Partial<ObjectSchema<AnyObject>>
  return Object.entries(fields).flatMap(([name, field]) => {
    if (!('type' in field) || field.type !== 'array') return []
    const list = field as unknown as ArraySchema<unknown[] | undefined, AnyObject>
    const items = list.innerType as Schema | undefined
    return items?.type === 'object' ? [{ name, list, items }] : []
  })
}

async function checkItems(items: Schema, sent: unknown[], name: string, faults: ValidationError[]) {
  const cast: unknown[] = []
  let until = performance.now() + TURN
  for (const [i, item] of sent.entries()) {
    // Where it stands is taken by the check of every schema, though only the package's own types say so.
    const options = { ...OPTIONS, path: `${name}[${i}]` }
    cast.push(noting(faults, () => items.validateSync(item, options)))
    if (faults.length >= MOST_TOLD) break
    if (performance.now() < until) continue
    await nextTurn()
    until = performance.now() + TURN
  }
  return cast
}

/** What a check gives; its faults are noted. */
function noting<Cast>(faults: ValidationError[], check: () => Cast): Cast | undefined {
  try {
    return check()
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error
    faults.push(...(error.inner.length > 0 ? error.inner : [error]))
    return undefined
  }
}
