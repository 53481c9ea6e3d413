import type { PileShares } from '../../contract/marks.ts'
import type { OwnShares } from '../../contract/ownWork.ts'
import {
  averageShares,
  ENOUGH_GIVERS,
  type GivenShare,
  pointsToGive,
  sharesFault,
} from '../../core/shares.ts'
import { markedFor } from '../../core/task.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import { mateNamesShown } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createAsFor } from './asFor.ts'
import type { Work } from './owners.ts'
import type { Share } from './shareStore.ts'
import type { Owner, Task } from './store.ts'

const givenOf = (shares: readonly Share[]): GivenShare<number>[] =>
  shares.map(({ by_id, points }) => ({
    by: by_id,
    points: new Map(
      Object.entries(JSON.parse(points) as Record<string, number>).map(([id, one]) => [Number(id), one]),
    ),
  }))

/** The work of one group, and no other's: for whom it counts, whether it is there, and whether its mark is out. */
function workOf(task: Task, groupId: number, now: string, stores: Stores) {
  const { tasks, there, seats, roster, marks } = stores
  const owner: Owner = { group_id: groupId, student_id: null }
  const standing = tasks.standing(task.id, owner)
  const members = markedFor({
    handedIn: standing ? (JSON.parse(standing.members) as number[]) : null,
    there: there.ofGroup(task.id, groupId),
    now: seats
      .ofGroup(groupId)
      .map(({ enrolment_id }) => enrolment_id)
      .filter((id) => roster.enrolment(id)?.status === 'active'),
  })
  const { hands_in, due_at } = createAsFor(task, stores)(owner).task
  const tookPlace = hands_in === 0 && due_at !== null && due_at <= now
  const mark = marks.ofTask(task.id).find((one) => one.group_id === groupId && one.apart_id === null)
  const done = standing !== undefined || mark !== undefined || tookPlace
  return { members, done, out: mark !== undefined && mark.released_at !== null }
}

/**
 * What a student says of how a group's work was shared: asked once there is something to share, of those for whom it
 * counts, until marks are out. Null where it is not asked, where they have no part in it or nobody else has, and where
 * the house rules name no group mates.
 */
export function ownShares(
  task: Task,
  groupId: number | null,
  { sheet, reader, now }: { sheet: Sheet; reader: Enrolment; now: string },
  stores: Stores,
): OwnShares | null {
  if (task.shares === 'no' || groupId === null || !mateNamesShown(sheet, now)) return null
  const work = workOf(task, groupId, now, stores)
  if (!work.members.includes(reader.id) || !work.done) return null
  const others = othersOf(work, reader, stores)
  if (others.length === 0) return null
  const shares = stores.shares.ofGroup(task.id, groupId)
  const mine = shares.find(({ by_id }) => by_id === reader.id)
  const got = averageShares(givenOf(shares), work.members).get(reader.id)
  const told = task.shares === 'own' && work.out && got !== undefined && got.by >= ENOUGH_GIVERS
  return {
    open: !work.out,
    others: others.map(({ code, name }) => ({ code, name })),
    toGive: pointsToGive(others.length),
    given: mine ? { points: byCode(JSON.parse(mine.points), others), words: mine.words } : null,
    average: told ? got.average : null,
  }
}

const othersOf = (
  { members }: { members: readonly number[] },
  reader: Enrolment,
  { roster }: Pick<Stores, 'roster'>,
): Enrolment[] => members.flatMap((id) => (id === reader.id ? [] : (roster.enrolment(id) ?? [])))

const byCode = (points: Record<string, number>, people: readonly Enrolment[]): Record<string, number> =>
  Object.fromEntries(
    people.flatMap(({ id, code }) => {
      const one = points[id]
      return one === undefined ? [] : [[code, one] as const]
    }),
  )

/**
 * Keeps what a student says of how the work was shared.
 * @throws ProblemError `shares-closed`, or beside the points with what does not add up
 */
export function giveShares(
  task: Task,
  groupId: number,
  { sheet, reader, now }: { sheet: Sheet; reader: Enrolment; now: string },
  { points, words }: { points: Record<string, number>; words: string },
  stores: Stores,
): void {
  const own = ownShares(task, groupId, { sheet, reader, now }, stores)
  if (!own?.open)
    throw new ProblemError('shares-closed', 'It is asked after the hand-in, and until the marks are out.')
  const fault = sharesFault(
    points,
    own.others.map(({ code }) => code),
  )
  const nameOf = (code: string) => own.others.find((one) => one.code === code)?.name ?? 'somebody'
  if (fault?.kind === 'sum') {
    const away = fault.wanted - fault.given
    const still = away > 0 ? `${away} are still to give` : `${-away} are too many`
    throw fieldProblem(
      'points',
      `You have ${fault.wanted} points to give and gave ${fault.given}: ${still}.`,
      'shares-wrong',
    )
  }
  if (fault?.kind === 'unknown')
    throw fieldProblem(
      'points',
      'Somebody among them has no part in this work any more. Load the page anew.',
      'shares-wrong',
    )
  if (fault)
    throw fieldProblem('points', `Give ${nameOf(fault.key)} whole points, none at least.`, 'shares-wrong')
  const { members } = workOf(task, groupId, now, stores)
  const ids = new Map(members.map((id) => [stores.roster.enrolment(id)?.code ?? '', id]))
  const kept = Object.fromEntries(Object.entries(points).map(([code, one]) => [ids.get(code) ?? 0, one]))
  stores.shares.put(task.id, groupId, reader.id, { points: kept, words }, now)
}

/** How the members of a group say its work was shared, for staff; null where they are not asked. */
export function pileShares(
  { task, members, owner }: Work,
  all: readonly Share[],
  people: ReadonlyMap<number, Enrolment>,
): PileShares | null {
  if (task.shares === 'no' || owner.group_id === null) return null
  const shares = all.filter(({ group_id, by_id }) => group_id === owner.group_id && members.includes(by_id))
  const codeOf = (id: number) => people.get(id)?.code ?? ''
  const there = members.flatMap((id) => people.get(id) ?? [])
  return {
    given: shares.map(({ by_id, points, words, given_at }) => ({
      by: codeOf(by_id),
      points: byCode(JSON.parse(points), there),
      words,
      givenAt: given_at,
    })),
    average: Object.fromEntries(
      [...averageShares(givenOf(shares), members)].map(([id, { average }]) => [codeOf(id), average]),
    ),
  }
}
