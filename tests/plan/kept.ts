import type { PlanInput } from '../../src/core/plan/types.ts'
import { group, people, input as plain } from './build.ts'

const sits = (...pairs: [string, string][]) => pairs.map(([who, group]) => ({ person: who, group }))
/** Without regard to floors, unless that is said. */
const input = (more: Partial<PlanInput>) => plain({ floorsFirst: false, ...more })

/** Cases that random tests found once, tried again each time. */
export const KEPT: Record<string, PlanInput> = {
  'somebody comes to a full group whose members may go': input({
    people: people(7),
    groups: [group('g0', 4), group('g1', 1)],
    seats: sits(['p0', 'g0'], ['p3', 'g1'], ['p4', 'g0'], ['p5', 'g0'], ['p6', 'g0']),
    keepings: [
      { key: 'k0', kind: 'together', people: ['p4', 'p2'] },
      { key: 'k1', kind: 'apart', people: ['p1', 'p0'] },
    ],
    release: ['p0', 'p4'],
  }),
  'a group is emptied for the sake of a rule': input({
    lotNumber: 36_113,
    floorsFirst: true,
    mayDissolve: true,
    people: people(7),
    groups: [group('g0', 1), group('g1', 2, { floor: 3 }), group('g2', 0), group('g3', 1, { blocked: 1 })],
    seats: sits(['p0', 'g0'], ['p3', 'g2'], ['p5', 'g1'], ['p6', 'g2']),
    keepings: [{ key: 'k0', kind: 'apart', people: ['p1', 'p5'] }],
  }),
  'a group that is emptied is no place to even out with': input({
    floorsFirst: true,
    mayDissolve: true,
    people: people(6),
    groups: [
      group('g0', 0),
      group('g1', 1, { blocked: 1, closed: true }),
      group('g2', 1, { closed: true }),
      group('g3', 1, { floor: 2 }),
      group('g4', 3, { blocked: 1 }),
    ],
    seats: sits(['p0', 'g0'], ['p1', 'g0'], ['p2', 'g0'], ['p3', 'g3'], ['p5', 'g0']),
    keepings: [{ key: 'k0', kind: 'apart', people: ['p3', 'p0'] }],
  }),
  'a group is emptied so that two can keep together': input({
    floorsFirst: true,
    mayDissolve: true,
    people: people(4),
    groups: [group('g0', 1), group('g1', 3), group('g2', 1, { floor: 2 })],
    seats: sits(['p0', 'g1'], ['p1', 'g0'], ['p2', 'g2']),
    keepings: [{ key: 'k0', kind: 'together', people: ['p0', 'p2'] }],
  }),
  'a seat that comes free for one pair is there for another': input({
    method: 'lot',
    people: people(6),
    groups: [group('g0', 3), group('g1', 3, { blocked: 1 }), group('g2', 2)],
    seats: sits(['p0', 'g0'], ['p1', 'g2'], ['p2', 'g1'], ['p3', 'g1'], ['p4', 'g0']),
    keepings: [
      { key: 'k0', kind: 'together', people: ['p3', 'p0'] },
      { key: 'k1', kind: 'together', people: ['p5', 'p2'] },
    ],
    release: 'all',
  }),
  'a rule that cannot hold names somebody whose group could be emptied': input({
    floorsFirst: true,
    mayDissolve: true,
    people: people(6),
    groups: [
      group('g0', 1),
      group('g1', 4, { blocked: 1, floor: 3 }),
      group('g2', 4, { blocked: 1, floor: 3 }),
    ],
    seats: sits(['p0', 'g0'], ['p2', 'g1'], ['p4', 'g2']),
    keepings: [{ key: 'k0', kind: 'together', people: ['p0', 'p4'] }],
  }),
  'two who keep together cost one of them a seat': input({
    people: people(7),
    groups: [group('g0', 3, { blocked: 1 }), group('g1', 1, { closed: true })],
    seats: sits(['p0', 'g1'], ['p4', 'g0'], ['p5', 'g0']),
    keepings: [{ key: 'k0', kind: 'together', people: ['p6', 'p4'] }],
    release: ['p4', 'p5'],
  }),
}
