import * as contract from '../../contract/groups.ts'
import { sayBytes } from '../../core/files.ts'
import { HOUR, shift } from '../../core/instant.ts'
import { groupBytes } from '../files/groupFiles.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import { messageMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import { namesFor } from '../seats/namesFor.ts'
import type { AddressOf } from '../sheets/address.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { extraOn } from './extras.ts'
import { reachedBy, reachGroup } from './reach.ts'
import { groupPage, groupsView, mayName, maySetMeeting } from './views.ts'

/** Messages that one person sends in an hour; more is a mistake, or a nuisance. */
const MOST_AN_HOUR = 20

/** Group pages: what groups get, what is their own, and messages to all of one. */
export function bindGroups(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  addressOf: AddressOf,
): void {
  const { groups, groupFiles, ledger } = stores

  serve(contract.groupList, ({ sheet, course, enrolment, now }) =>
    groupsView(sheet, course, enrolment, now, stores),
  )

  serve(contract.setExtras, ({ sheet, course, enrolment, person, body, now }) => {
    const before = groups.extras(sheet.id)
    const given = Object.fromEntries(Object.entries(body).filter(([, value]) => value !== undefined))
    const next = { ...before, ...given }
    if (next.fileBytes > next.groupBytes) {
      const most = sayBytes(next.groupBytes)
      throw fieldProblem('fileBytes', `All files of a group have ${most} together, so one cannot have more.`)
    }
    unit.onSheet(sheet, now, () => {
      groups.setExtras(sheet.id, next)
      const changes = Object.entries(next).filter(
        ([key, value]) => before[key as keyof typeof before] !== value,
      )
      if (changes.length === 0) return
      const detail = Object.fromEntries(
        changes.map(([key, value]) => [key, [before[key as keyof typeof before], value]]),
      )
      ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'extras-changed', detail })
    })
    return groupsView(sheet, course, enrolment, now, stores)
  })

  serve(contract.setOwnExtras, ({ sheet, course, enrolment, person, params, body, now }) => {
    const reach = reachGroup(sheet, enrolment, params.group, stores)
    const all = groups.extras(sheet.id)
    const own = Object.fromEntries(
      Object.entries(body).filter(
        ([key, value]) => value !== undefined && all[key as keyof typeof body] !== value,
      ),
    )
    unit.onSheet(sheet, now, (_, telling) => {
      groups.setOwnExtras(reach.group.id, own)
      const detail = { group: reach.group.id, ...own }
      ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'own-extras-changed', detail })
      telling.page(reach.group.id)
    })
    return groupPage(sheet, course, reach, enrolment, now, stores)
  })

  serve(contract.groupPage, ({ sheet, course, enrolment, params, now }) =>
    groupPage(sheet, course, reachGroup(sheet, enrolment, params.group, stores), enrolment, now, stores),
  )

  serve(contract.setPlace, ({ sheet, course, enrolment, person, params, body, now }) => {
    const reach = reachGroup(sheet, enrolment, params.group, stores)
    const { group, as } = reach
    const named = body.name !== undefined || body.emblem !== undefined
    if (body.meeting !== undefined) {
      extraOn(group, 'meeting', stores)
      if (!maySetMeeting(sheet, group, as, enrolment, stores))
        throw new ProblemError('not-allowed', 'The meeting link is set by your instructors or your convener.')
    }
    if (named) {
      extraOn(group, 'name', stores)
      if (!mayName(sheet, group, as, enrolment, stores))
        throw new ProblemError('not-allowed', 'Your convener gives the group its name and emblem.')
    }
    const before = groups.place(group.id)
    const next = {
      meeting: body.meeting ?? before.meeting,
      name: body.name ?? before.name,
      emblem: body.emblem ?? before.emblem,
    }
    const what = (['meeting', 'name', 'emblem'] as const).filter((key) => before[key] !== next[key])
    if (what.length > 0) {
      unit.onSheet(sheet, now, (_, telling) => {
        groups.setPlace(group.id, next)
        const detail = { group: group.id, what: what.join(' '), ...next }
        ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'place-changed', detail })
        telling.page(group.id)
      })
    }
    return groupPage(sheet, course, reach, enrolment, now, stores)
  })

  serve(contract.sendMessage, ({ sheet, course, enrolment, params, body, now, req }) => {
    const reach = reachGroup(sheet, enrolment, params.group, stores)
    const { group, as } = reach
    extraOn(group, 'messages', stores)
    const { members, tutors } = reachedBy(sheet, group.id, stores)
    const to = [...new Map([...members, ...tutors].map((one) => [one.id, one])).values()].filter(
      ({ id }) => id !== enrolment.id,
    )
    if (to.length === 0)
      throw new ProblemError(
        'nobody-to-write-to',
        'Nobody else is in this group, so a message would reach nobody.',
      )
    if (as === 'member' && groups.sentSince(enrolment.id, shift(now, -HOUR)) >= MOST_AN_HOUR) {
      throw new ProblemError(
        'too-many-tries',
        `You have sent ${MOST_AN_HOUR} messages within an hour. Wait a little before the next.`,
      )
    }
    const where = stores.sheets.topicById(group.topic_id)?.title ?? ''
    const address = addressOf(sheet, req, `/sheets/${sheet.code}/groups/${group.code}`)
    unit.onSheet(sheet, now, (_, telling) => {
      groups.addMessage(group.id, { by_id: enrolment.id, ...body, reached: to.length }, now)
      for (const person of to) {
        const by = namesFor(sheet, person, now, stores)(enrolment.id)
        const about = { to: person.email, course: course.course_code, address }
        mailer.send(messageMail(about, { by, topic: where, ...body }))
      }
      telling.page(group.id)
    })
    return groupPage(sheet, course, reach, enrolment, now, stores)
  })

  serve(contract.removeGroupFile, ({ sheet, course, enrolment, params, now }) => {
    const reach = reachGroup(sheet, enrolment, params.group, stores)
    extraOn(reach.group, 'files', stores)
    const file = groupFiles.byCode(reach.group.id, params.file)
    if (!file) throw notFound('There is no such file in this group.')
    if (file.removed_at === null) {
      unit.onSheet(sheet, now, (_, telling) => {
        groupFiles.setRemoved(file.id, now, enrolment.id)
        telling.page(reach.group.id)
      })
    }
    return groupPage(sheet, course, reach, enrolment, now, stores)
  })

  serve(contract.restoreGroupFile, ({ sheet, course, enrolment, params, now }) => {
    const reach = reachGroup(sheet, enrolment, params.group, stores)
    const { group } = reach
    extraOn(group, 'files', stores)
    const file = groupFiles.byCode(group.id, params.file)
    if (!file) throw notFound('That file is gone for good: it was deleted more than 30 days ago.')
    if (file.removed_at !== null) {
      unit.onSheet(sheet, now, (_, telling) => {
        if (groupFiles.named(group.id, file.name)) {
          throw new ProblemError(
            'file-name-unusable',
            `There is another “${file.name}” by now. Take that away first, or keep it.`,
          )
        }
        groupFiles.setRemoved(file.id, null, null)
        const { groupBytes: most } = groups.extras(sheet.id)
        if (groupBytes(group.id, stores) > most)
          throw new ProblemError(
            'no-room-left',
            'There is no room for it any more. Take another file away first.',
          )
        telling.page(group.id)
      })
    }
    return groupPage(sheet, course, reach, enrolment, now, stores)
  })
}
