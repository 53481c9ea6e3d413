import * as contract from '../../contract/plans.ts'
import { takesPeople } from '../../core/groupState.ts'
import { DAY, shift } from '../../core/instant.ts'
import { inverseOf } from '../../core/seating.ts'
import { readLocalTime } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Mailer } from '../mail/mailer.ts'
import { seatPeople } from '../seats/byHand.ts'
import type { AddressOf } from '../sheets/address.ts'
import type { Edit } from '../sheets/edit.ts'
import type { Sheet } from '../sheets/store.ts'
import { removeTopic } from '../sheets/topicEdits.ts'
import { visibleToStudents } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { applyPlan, changesOf } from './apply.ts'
import { goOut } from './goOut.ts'
import { recallSeated, tellSeated } from './mail.ts'
import { settleView } from './views.ts'

/** Plans: what they are made from, kept ones, applying one and taking it back, and who keeps apart or together. */
export function bindPlans(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  addressOf: AddressOf,
): void {
  const { plans, sheets, roster, ledger } = stores
  const fresh = (sheet: Sheet) => sheets.byId(sheet.id) ?? sheet

  serve(contract.settle, ({ sheet, course, enrolment, now }) =>
    settleView(sheet, course, enrolment, now, stores),
  )

  serve(contract.keepPlan, ({ sheet, course, enrolment, person, body, now }) => {
    const { key: code, title, content } = body
    unit.onSheet(sheet, now, () => {
      if (plans.byCode(sheet.id, code)) return
      const position = ledger.newest(sheet.id)
      plans.add(sheet.id, { code, title, content: JSON.stringify(content), position }, now, person.id)
    })
    return settleView(sheet, course, enrolment, now, stores)
  })
  serve(contract.dropPlan, ({ sheet, course, enrolment, params, now }) => {
    unit.onSheet(sheet, now, () => {
      if (!plans.drop(sheet.id, params.plan))
        throw notFound('That plan is not kept any more, or was applied.')
    })
    return settleView(sheet, course, enrolment, now, stores)
  })

  serve(contract.applyPlan, ({ req, sheet, course, enrolment, person, body, now }) => {
    const { key: code, title, tell } = body
    const content = body.content as contract.PlanContent
    unit.onSheet(sheet, now, (current) => {
      const applied = applyPlan({ sheet: current, course, person, code, title, content, now, stores })
      if (body.publish) {
        goOut({ sheet: fresh(current), course, person, now, stores }, tell, addressOf(current, req), mailer)
        return
      }
      // Of a draft nobody learns: those who sit on it are told when it is published.
      if (tell && visibleToStudents(current, now))
        tellSeated(
          current,
          course,
          applied.moves,
          addressOf(current, req),
          { cause: `plan ${code}`, now },
          stores,
          mailer,
        )
    })
    return settleView(fresh(sheet), course, enrolment, now, stores)
  })

  serve(contract.undoPlan, ({ req, sheet, course, person, params, now }) => {
    return unit.onSheet(sheet, now, (current) => {
      const plan = plans.byCode(sheet.id, params.plan)
      if (!plan) throw notFound('There is no such plan.')
      if (!plans.undone(plan.id, now))
        throw new ProblemError('plan-not-applied', 'It was not applied, or was undone already.')
      const content = JSON.parse(plan.content) as contract.PlanContent
      const changes = changesOf(content)
      const { back, kept } = whatStillStands(current, course, changes, stores)
      if (back.length > 0) {
        const detailOf = () => ({ because: 'plan-undone', plan: plan.code })
        const seatings = {
          sheet: current,
          changes: inverseOf(back),
          actorId: person.id,
          now,
          stores,
          detailOf,
        }
        seatPeople(seatings, () => true)
      }
      takeMadeAway({ sheet: current, course, person, now, stores }, content.settings.made?.topics ?? [])
      recallSeated(current, `plan ${plan.code}`, addressOf(current, req), now, stores, mailer)
      return { undone: back.length, kept }
    })
  })

  serve(contract.addKeeping, ({ sheet, course, enrolment, body, now }) => {
    const { kind, note, until } = body
    const known = new Map(roster.everybody(course.id).map((one) => [one.code, one]))
    const members = [...new Set(body.people)].map((code, i) => {
      const found = known.get(code)
      if (found?.role !== 'student')
        throw fieldProblem(`people[${i}]`, 'Only students of the course are kept apart or together.')
      return found.id
    })
    if (members.length < 2) throw fieldProblem('people', 'It takes two people at least.', 'keeping-too-small')
    unit.onSheet(sheet, now, () => {
      plans.addKeeping(course.id, { kind, note, expiresAt: endOfDay(until, course), members }, now)
    })
    return settleView(sheet, course, enrolment, now, stores)
  })
  serve(contract.dropKeeping, ({ sheet, course, enrolment, params, now }) => {
    unit.onSheet(sheet, now, () => {
      if (!plans.dropKeeping(course.id, params.keeping)) throw notFound('It was removed meanwhile.')
    })
    return settleView(sheet, course, enrolment, now, stores)
  })
}

/** Takes topics away again that a plan made, where nobody sits in any group of theirs. */
function takeMadeAway(edit: Edit, codes: readonly string[]): void {
  const { sheets, seats } = edit.stores
  for (const code of codes) {
    const topic = sheets.topic(edit.sheet.id, code)
    if (!topic || topic.removed_at !== null) continue
    const groups = sheets.groups(edit.sheet.id).filter(({ topic_id }) => topic_id === topic.id)
    if (groups.every(({ id }) => seats.takenIn(id) === 0)) removeTopic(edit, topic, false)
  }
}

/** The end of a day in the course's zone. */
function endOfDay(day: string | null, { zone }: Course): string | null {
  if (day === null) return null
  const reading = readLocalTime(`${day}T00:00`, zone)
  if (reading.kind === 'one') return shift(reading.instant, DAY)
  if (reading.kind === 'twice') return shift(reading.first, DAY)
  throw fieldProblem('until', 'That is no day of the calendar.')
}

/** Which changes of a plan can be taken back: people who still sit where it put them, active, in groups that are there. */
function whatStillStands(
  sheet: Sheet,
  course: Course,
  changes: ReturnType<typeof changesOf>,
  { seats, sheets, roster }: Stores,
): { back: ReturnType<typeof changesOf>; kept: string[] } {
  const people = new Map(roster.everybody(course.id).map((one) => [one.code, one]))
  const kept: string[] = []
  const back = changes.filter(({ person, from, to }) => {
    const enrolment = people.get(person)
    const held = enrolment ? seats.heldBy(sheet.id, enrolment.id).map(({ group_id }) => group_id) : []
    const there = to === null ? held.length === 0 : held.includes(sheets.group(to)?.id ?? 0)
    const old = from === null ? null : sheets.group(from)
    const open = old === null || (old !== undefined && takesPeople(old))
    const stands = enrolment?.status === 'active' && there && open
    if (!stands && enrolment) kept.push(enrolment.name)
    return stands
  })
  return { back, kept }
}
