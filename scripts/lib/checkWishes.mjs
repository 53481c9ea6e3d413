// Checks the record of a seating by wishes, apart from what made it: nothing of the planner is used here. What it does is
// slow and plain, so that it can be read: paths are found by trying every step again until nothing gets shorter (Bellman
// and Ford).

const NOWHERE = -1
/** Seats that are free, as a place in between: whoever takes one lets another one become free elsewhere. */
const FREE = -2

/**
 * Says what is wrong with a record; nothing where the result is what the rules give.
 * @param {any} record as `haplon-wishes-1` has it
 * @returns {string[]} faults, in sentences
 */
export function checkWishes(record) {
  const shape = shapeFaults(record)
  if (shape.length > 0) return shape
  const world = worldOf(record)
  const faults = seatFaults(world)
  if (faults.length > 0) return faults
  if (record.aim !== 'in-turn') return bestFaults(world)
  return world.named.size > 0 ? [] : turnFaults(world)
}

/**
 * What is not checked of a record, in sentences: which groups are opened where there are floors, and where people sit who
 * keep together or apart, is taken as the record has it.
 * @param {any} record as `haplon-wishes-1` has it
 * @returns {string[]}
 */
export function uncheckedIn(record) {
  const { rules } = record
  if (!rules) return []
  const named = rules.together.length + rules.apart.length > 0
  if (record.aim === 'in-turn' && named)
    return ['People keep together or apart: whose turn it was is not checked.']
  return [
    'Checked with the groups that were opened, and with those who keep together or apart where they sit.',
    rules.proven
      ? 'The planner says that no other choice of these would have been better; that is not checked here.'
      : 'The planner says that another choice of these might have been better; it had no time to rule that out.',
  ]
}

/** What of a record cannot even be read. */
function shapeFaults(record) {
  if (record?.schema !== 'haplon-wishes-1')
    return ['This is no record of wishes: its schema is not haplon-wishes-1.']
  const faults = []
  for (const list of ['groups', 'rows', 'result'])
    if (!Array.isArray(record[list])) faults.push(`“${list}” is no list.`)
  if (!['most-first', 'nobody-far-down', 'least-total', 'in-turn'].includes(record.aim))
    faults.push(`The aim “${record.aim}” is not known.`)
  if (!Number.isInteger(record.lotNumber) || record.lotNumber < 0)
    faults.push('The lot number is no whole number.')
  if (record.reversed !== undefined && record.reversed !== true)
    faults.push('“reversed” is true, or left out.')
  if (faults.length > 0) return faults
  for (const [list, name] of [
    ['groups', 'code'],
    ['rows', 'code'],
    ['result', 'row'],
  ]) {
    const codes = record[list].map((one) => one?.[name])
    if (codes.some((code) => typeof code !== 'string' || code === ''))
      faults.push(`In “${list}” a code is missing.`)
    if (new Set(codes).size !== codes.length) faults.push(`In “${list}” a code stands twice.`)
  }
  for (const row of record.rows)
    if (!Array.isArray(row?.wishes) || !row.wishes.every(Array.isArray) || !Array.isArray(row.cannot))
      faults.push(`Row ${row?.code}: its wishes cannot be read.`)
  return faults
}

/** What is to be checked, with people and groups by their places. */
function worldOf({ aim, offers, lotNumber, reversed, groups, rows, result, rules }) {
  const longest = Math.max(0, ...rows.map(({ wishes }) => wishes.length))
  const placeOf = new Map(groups.map(({ code }, g) => [code, g]))
  const got = new Map(result.map((one) => [one.row, one]))
  const people = rows.map((row) => {
    const rankOf = (g) => row.wishes.findIndex((topics) => topics.includes(groups[g].topic)) + 1
    const open = groups.flatMap((group, g) =>
      (offers === 'course' || group.section === null || group.section === row.section) &&
      group.seats !== 0 &&
      !row.cannot.includes(group.topic) &&
      !row.never?.includes(group.code)
        ? [g]
        : [],
    )
    const given = got.get(row.code)
    const at = given?.group == null ? NOWHERE : (placeOf.get(given.group) ?? null)
    return {
      code: row.code,
      wants: row.wishes.length > 0,
      home: row.home === undefined ? null : (placeOf.get(row.home) ?? null),
      rankOf,
      open,
      at,
      said: given?.rank ?? null,
      listed: given !== undefined,
    }
  })
  const sizeOf = (g) => people.filter(({ at }) => at === g).length
  /** How many have to stay in each group, and how many may come: what was opened stays open, what was not stays shut. */
  const bounds = groups.map(({ seats, floor = 1, before = 0 }, g) => {
    const size = sizeOf(g)
    if (floor <= 1 || before >= floor) return { least: 0, most: seats }
    if (size === 0) return { least: 0, most: before > 0 ? seats : 0 }
    return before + size < floor ? { least: size, most: size } : { least: floor - before, most: seats }
  })
  return {
    aim,
    bounds,
    rules,
    /** Rows whose places are taken as they are. */
    named: new Set([...(rules?.together.flat() ?? []), ...(rules?.apart.flat() ?? [])]),
    groups,
    people,
    longest,
    lotNumber,
    reversed: reversed === true,
    unknown: result.filter(({ row }) => !rows.some(({ code }) => code === row)),
  }
}

/** What is wrong with seats that were given, whatever was aimed at. */
function seatFaults({ groups, people, unknown, rules }) {
  const faults = unknown.map(({ row }) => `The result has a row ${row}, which has no wishes in the record.`)
  const load = groups.map(() => 0)
  for (const { code, at, open, rankOf, said, listed } of people) {
    if (!listed) faults.push(`Row ${code} is not in the result.`)
    else if (at === null) faults.push(`Row ${code} sits in a group that the record does not have.`)
    else if (at !== NOWHERE && !open.includes(at))
      faults.push(`Row ${code} sits in ${groups[at].code}, which is not open to it.`)
    else {
      if (at !== NOWHERE) load[at] += 1
      const rank = at === NOWHERE ? null : rankOf(at) || null
      if (rank !== said)
        faults.push(`Row ${code} has rank ${rank ?? 'none'}, and the result says ${said ?? 'none'}.`)
    }
  }
  for (const [g, { code, seats }] of groups.entries())
    if (seats !== null && load[g] > seats) faults.push(`${load[g]} sit in ${code}, which had ${seats} seats.`)
  const placeOf = new Map(people.map(({ code, at }) => [code, at]))
  for (const all of rules?.together ?? [])
    if (new Set(all.map((row) => placeOf.get(row))).size > 1)
      faults.push(`Rows ${all.join(', ')} keep together, and do not sit together.`)
  for (const [a, b] of rules?.apart ?? [])
    if (placeOf.get(a) === placeOf.get(b) && placeOf.get(a) !== NOWHERE)
      faults.push(`Rows ${a} and ${b} keep apart, and sit together.`)
  return faults
}

/** How good a place is for somebody: the rank of a wish, any other seat, or none. */
const goodness = (person, g, longest) => (g === NOWHERE ? longest + 2 : person.rankOf(g) || longest + 1)

/** What a place costs under the aim: numbers of which the first counts most. */
function costOf(person, g, world) {
  const [left, lacking, ...wishes] = wishCostOf(person, g, world)
  const moved = person.home != null && person.home !== g ? 1 : 0
  const order = world.rules?.order ?? []
  return order.indexOf('wishes') < order.indexOf('moved')
    ? [left, lacking, ...wishes, moved]
    : [left, lacking, moved, ...wishes]
}

function wishCostOf(person, g, { aim, longest }) {
  const wants = person.wants ? 1 : 0
  if (g === NOWHERE) return [1, wants, ...none(aim, longest)]
  const rank = person.rankOf(g) || longest + 1
  if (!person.wants) return [0, 0, ...none(aim, longest)]
  if (aim === 'least-total') return [0, 0, rank]
  // As many first wishes as can be, then second; or as few of the last, then of the one before.
  const counted = none(aim, longest)
  if (aim === 'most-first') {
    if (rank <= longest) counted[rank - 1] = -1
  } else counted[longest + 1 - rank] = 1
  return [0, 0, ...counted]
}
const none = (aim, longest) => Array.from({ length: aim === 'least-total' ? 1 : longest + 1 }, () => 0)

const plus = (a, b) => a.map((one, i) => one + b[i])
const minus = (a, b) => a.map((one, i) => one - b[i])
const isLess = (a, b) => {
  const at = a.findIndex((one, i) => one !== b[i])
  return at >= 0 && a[at] < b[at]
}

/** Every step of one person from where they sit, and of the seats that are free. */
function stepsOf(world, mayGo) {
  const { groups, people, bounds, named } = world
  const steps = []
  const load = groups.map((_, g) => people.filter(({ at }) => at === g).length)
  const zero = costOf({ wants: false, rankOf: () => 0 }, 0, world)
  for (const [i, person] of people.entries())
    for (const to of named.has(person.code) ? [] : [...person.open, NOWHERE])
      if (to !== person.at && mayGo(i, to))
        steps.push({
          from: person.at,
          to,
          cost: minus(costOf(person, to, world), costOf(person, person.at, world)),
        })
  for (const [g, { least, most }] of bounds.entries()) {
    if (most === null || load[g] < most) steps.push({ from: g, to: FREE, cost: zero })
    if (load[g] > least) steps.push({ from: FREE, to: g, cost: zero })
  }
  steps.push({ from: NOWHERE, to: FREE, cost: zero })
  if (people.some(({ at, code }) => at === NOWHERE && !named.has(code)))
    steps.push({ from: FREE, to: NOWHERE, cost: zero })
  return { steps, zero, nodes: [...groups.keys(), NOWHERE, FREE] }
}

/** The least costs from some nodes to all; null where costs fall for ever. */
function shortest({ steps, nodes }, starts) {
  const cost = new Map(starts)
  for (let round = 0; round <= nodes.length; round++) {
    let shorter = false
    for (const { from, to, cost: own } of steps) {
      const before = cost.get(from)
      if (before === undefined) continue
      const next = plus(before, own)
      const known = cost.get(to)
      if (known !== undefined && !isLess(next, known)) continue
      cost.set(to, next)
      shorter = true
    }
    if (!shorter) return cost
  }
  return null
}

/** Faults of a seating that is to be the best: something better, or somebody whom the lot would have given a better wish. */
function bestFaults(world) {
  const { people, longest, named } = world
  const all = stepsOf(world, () => true)
  if (
    shortest(
      all,
      all.nodes.map((node) => [node, all.zero]),
    ) === null
  )
    return ['It is not the best: people could change places so that the aim is reached better.']
  const order = orderIn(world).filter((i) => !named.has(people[i].code))
  const turn = new Map(order.map((i, place) => [i, place]))
  for (const i of order) {
    const person = people[i]
    const now = goodness(person, person.at, longest)
    const better = [...person.open, NOWHERE].filter((to) => goodness(person, to, longest) < now)
    for (const to of better) {
      // Whoever comes before in the lot keeps what they have; the others may go anywhere.
      const graph = stepsOf(world, (q, place) => {
        if (q === i) return false
        return (
          turn.get(q) > turn.get(i) ||
          goodness(people[q], place, longest) === goodness(people[q], people[q].at, longest)
        )
      })
      const start = minus(costOf(person, to, world), costOf(person, person.at, world))
      const back = shortest(graph, [[to, start]])?.get(person.at)
      if (back !== undefined && !isLess(graph.zero, back))
        return [
          `Row ${person.code} could have had a better wish by its place in the lot, and nothing would be worse.`,
        ]
    }
  }
  return []
}

/** Faults of a seating in turn: somebody who could have had better when it was their turn. */
function turnFaults(world) {
  const { bounds, people, longest } = world
  const order = orderIn(world)
  const inTurn = [...order.filter((i) => people[i].wants), ...order.filter((i) => !people[i].wants)]
  for (const [place, i] of inTurn.entries()) {
    const before = inTurn.slice(0, place)
    const now = goodness(people[i], people[i].at, longest)
    for (const to of people[i].open.filter((g) => goodness(people[i], g, longest) < now))
      if (hasRoom(to, before))
        return [`Row ${people[i].code} could have had a better wish when it was its turn.`]
  }
  return []
  /** Whether a seat comes free there, with those before at places that are as good for them. */
  function hasRoom(start, before) {
    const seen = new Set([start])
    const queue = [start]
    for (const g of queue) {
      const sitting = before.filter((q) => people[q].at === g)
      const { most } = bounds[g]
      if (most === null || sitting.length < most) return true
      for (const q of sitting)
        for (const other of people[q].open)
          if (!seen.has(other) && goodness(people[q], other, longest) === goodness(people[q], g, longest)) {
            seen.add(other)
            queue.push(other)
          }
    }
    return false
  }
}

/** The order in which rows choose: that of the lot, or, in every second round, from its end. */
function orderIn({ people, lotNumber, reversed }) {
  const order = lotOrder(people, lotNumber)
  return reversed ? order.reverse() : order
}

/**
 * The order of the lot: rows by their codes, drawn by sfc32 (Chris Doty-Humphrey, PractRand, public domain) from the lot
 * number and the words “wishes: people”, and shuffled from the end (Fisher and Yates).
 */
export function lotOrder(people, lotNumber) {
  const order = [...people.keys()].sort((a, b) => (people[a].code < people[b].code ? -1 : 1))
  const next = sfc32(`${lotNumber >>> 0} wishes: people`)
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor((next() / 2 ** 32) * (i + 1))
    ;[order[i], order[j]] = [order[j], order[i]]
  }
  return order
}

function sfc32(words) {
  const hash = (start) => {
    let h = start
    for (const letter of words) h = Math.imul(h ^ letter.charCodeAt(0), 0x01000193)
    h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
    return (h ^ (h >>> 16)) >>> 0
  }
  let [a, b, c, count] = [hash(0x811c9dc5), hash(0x9e3779b9), hash(0x243f6a88), hash(0xb7e15162) | 1]
  const next = () => {
    const sum = (a + b + count) | 0
    count = (count + 1) | 0
    a = b ^ (b >>> 9)
    b = (c + (c << 3)) | 0
    c = (((c << 21) | (c >>> 11)) + sum) | 0
    return sum >>> 0
  }
  for (let i = 0; i < 15; i++) next()
  return next
}
