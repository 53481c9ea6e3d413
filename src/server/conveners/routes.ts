import * as contract from '../../contract/conveners.ts'
import { reachGroup } from '../groups/reach.ts'
import { groupPage } from '../groups/views.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Allowance } from '../mail/allowance.ts'
import { askedToLeaveMail, seatedByConvenerMail, takenOutMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Enrolment } from '../roster/store.ts'
import { type Seatings, seatPeople } from '../seats/byHand.ts'
import type { Editing } from '../sheets/editing.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { askedIn, type Convening, convening, seatableIn } from './may.ts'

type Asked = Editing & { params: { group: string } }

/** What the convener of a group may do where the house rules let them: seat people without a group, and take members out. */
export function bindConveners(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  allowance: Allowance,
): void {
  const { conveners, roster, sheets, seats, ledger } = stores
  const topicOf = (group: Group) => sheets.topicById(group.topic_id)?.title ?? ''

  /** The group that somebody answers for, with what they may do there. */
  const reached = ({ sheet, enrolment, params, now }: Asked): { group: Group; may: Convening } => {
    const { group } = reachGroup(sheet, enrolment, params.group, stores)
    const may = convening(sheet, group, enrolment, now, stores)
    if (!may)
      throw new ProblemError(
        'not-allowed',
        'On this sheet, or in this group, you do not seat people or take them out.',
      )
    return { group, may }
  }
  const pageOf = ({ sheet, course, enrolment, now }: Asked, group: Group) =>
    groupPage(sheet, course, { group, as: 'member' }, enrolment, now, stores)
  const personOf = ({ course, body }: Asked & { body: { person: string } }): Enrolment => {
    const person = roster.everybody(course.id).find(({ code }) => code === body.person)
    if (person?.role !== 'student')
      throw fieldProblem('person', 'That person is no student of this course any more.')
    return person
  }

  serve(contract.seatable, (asked) => {
    const { group, may } = reached(asked)
    const people = may.seat ? seatableIn(asked.sheet, group, stores) : []
    return { people: people.map(({ code, name }) => ({ code, name })) }
  })

  serve(contract.seatMember, (asked) => {
    const { sheet, course, enrolment, person: actor, now } = asked
    const { group, may } = reached(asked)
    const guest = personOf(asked)
    if (!may.seat)
      throw new ProblemError('group-full', 'There is no free seat to give, or the sheet is not open.')
    if (!seatableIn(sheet, group, stores).some(({ id }) => id === guest.id))
      throw fieldProblem('person', `${guest.name} has a group by now, or is of another section.`)
    unit.onSheet(sheet, now, (current, telling) => {
      allowance.spend('invitations', enrolment.id, now)
      seatQuietly({
        sheet: current,
        changes: [{ person: guest.code, from: null, to: group.code }],
        actorId: actor.id,
        now,
        stores,
        detailOf: () => ({ because: 'convener' }),
      })
      mailer.send(seatedByConvenerMail(guest.email, course.course_code, sheet.title, topicOf(group)))
      telling.page(group.id)
    })
    return pageOf(asked, group)
  })

  serve(contract.takeOutMember, (asked) => {
    const { sheet, course, enrolment, person: actor, now } = asked
    const { group, may } = reached(asked)
    const member = personOf(asked)
    const how = may.out.get(member.id)
    if (how === undefined)
      throw fieldProblem(
        'person',
        `${member.name} does not sit here, or the group has handed in and stays as it is.`,
      )
    unit.onSheet(sheet, now, (current, telling) => {
      allowance.spend('invitations', enrolment.id, now)
      if (how === 'now') {
        takeOut(current, group, member, actor.id, now)
        mailer.send(takenOutMail(member.email, course.course_code, sheet.title, topicOf(group)))
      } else if (how === 'ask') {
        conveners.ask(group.id, member.id, enrolment.id, now)
        const detail = { group: group.id }
        const kind = 'leave-asked'
        ledger.note({ sheetId: sheet.id, at: now, actorId: actor.id, kind, enrolmentId: member.id, detail })
        mailer.send(askedToLeaveMail(member.email, course.course_code, sheet.title, topicOf(group)))
      }
      telling.page(group.id)
    })
    return pageOf(asked, group)
  })

  serve(contract.dropLeaveAsk, (asked) => {
    const { sheet, now, person: actor } = asked
    const { group } = reached(asked)
    const member = personOf(asked)
    unit.onSheet(sheet, now, (_, telling) => {
      if (conveners.drop(group.id, member.id)) {
        const detail = { group: group.id, answer: 'dropped' }
        const kind = 'leave-answered'
        ledger.note({ sheetId: sheet.id, at: now, actorId: actor.id, kind, enrolmentId: member.id, detail })
      }
      telling.page(group.id)
    })
    return pageOf(asked, group)
  })

  serve(contract.answerLeaving, ({ sheet, enrolment, person: actor, params, body, now }) => {
    const { group } = reachGroup(sheet, enrolment, params.group, stores)
    unit.onSheet(sheet, now, (current, telling) => {
      const asked = askedIn(group, stores).has(enrolment.id)
      conveners.drop(group.id, enrolment.id)
      if (!asked) throw new ProblemError('request-answered', 'That was taken back or answered meanwhile.')
      const detail = { group: group.id, answer: body.agreed ? 'agreed' : 'declined' }
      const kind = 'leave-answered'
      ledger.note({ sheetId: sheet.id, at: now, actorId: actor.id, kind, enrolmentId: enrolment.id, detail })
      if (body.agreed) takeOut(current, group, enrolment, actor.id, now)
      telling.page(group.id)
    })
    return { left: body.agreed }
  })

  function takeOut(
    sheet: Asked['sheet'],
    group: Group,
    member: Enrolment,
    actorId: number,
    now: string,
  ): void {
    if (stores.tasks.isBound(group.id))
      throw new ProblemError('seating-not-possible', 'The group has handed in, so it stays as it is.')
    if (!seats.heldBy(sheet.id, member.id).some(({ group_id }) => group_id === group.id))
      throw new ProblemError('seat-not-held', 'They do not sit there any more.')
    conveners.drop(group.id, member.id)
    seatPeople(
      {
        sheet,
        changes: [{ person: member.code, from: group.code, to: null }],
        actorId,
        now,
        stores,
        detailOf: () => ({ because: 'convener' }),
      },
      () => true,
    )
  }
}

/** Seats somebody where nothing speaks against it. What does is for staff alone: who is kept apart from whom, say. */
function seatQuietly(seatings: Seatings): void {
  try {
    seatPeople(seatings, () => false)
  } catch (error) {
    const known = error instanceof ProblemError && /^seating-/.test(error.code)
    if (!known) throw error
    throw new ProblemError('seating-not-possible', 'They cannot be seated here. Ask your instructors.')
  }
}
