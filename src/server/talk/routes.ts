import * as contract from '../../contract/talk.ts'
import type { Instant } from '../../core/instant.ts'
import { mentionsIn } from '../../core/talk.ts'
import { newCode } from '../codes.ts'
import { extraOn } from '../groups/extras.ts'
import { reachGroup } from '../groups/reach.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Enrolment } from '../roster/store.ts'
import type { AddressOf, Reached } from '../sheets/address.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { namedIn } from './named.ts'
import { notice } from './notices.ts'
import type { Post, Subject } from './store.ts'
import { subjectView } from './views.ts'

/** The talk of groups. Every route is for those who reach the group; to everybody else it does not exist. */
export function bindTalk(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  addressOf: AddressOf,
): void {
  const { talk, groups, sheets } = stores

  const reached = (sheet: Sheet, enrolment: Enrolment, code: string) => {
    const reach = reachGroup(sheet, enrolment, code, stores)
    extraOn(reach.group, 'talk', stores)
    return reach
  }
  const subjectOn = (groupId: number, code: string): Subject => {
    const subject = talk.byCode(groupId, code)
    if (!subject) throw notFound('There is no such subject in this group.')
    return subject
  }
  const postOn = (subject: Subject, code: string): Post => {
    const post = talk.post(subject.id, code)
    if (!post) throw notFound('There is no such post.')
    return post
  }

  serve(contract.talkDigest, ({ person }) => ({ on: stores.digests.ofPerson(person.id) !== undefined }))
  serve(contract.setTalkDigest, ({ person, body, now, req }) => {
    if (!body.on) stores.digests.end(person.id)
    else if (!stores.digests.ofPerson(person.id)) stores.digests.begin(person.id, now, addressOf.origin(req))
    return { on: body.on }
  })

  serve(contract.subject, ({ sheet, enrolment, params, now }) => {
    const { group, as } = reached(sheet, enrolment, params.group)
    return subjectView(sheet, subjectOn(group.id, params.subject), enrolment, as, now, stores)
  })

  serve(contract.startSubject, (context) => {
    const { sheet, enrolment, params, body, now } = context
    const { group, as } = reached(sheet, enrolment, params.group)
    const { starts } = groups.extrasFor(group)
    const within = body.within === null ? null : subjectOn(group.id, body.within)
    if (within === null && as === 'member' && starts !== 'everybody') {
      const instead = starts === 'threads' ? 'you open threads within them' : 'you can reply to any of them'
      throw new ProblemError(
        'staff-start',
        `In this group instructors and tutors open the subjects; ${instead}.`,
      )
    }
    if (within !== null && (starts !== 'threads' || within.within_id !== null))
      throw fieldProblem('within', 'There are no threads within that. Reply to it instead.')
    const subject = unit.onSheet(sheet, now, (_, telling) => {
      telling.page(group.id)
      return start(context, group.id, { ...body, shared: null, withinId: within?.id ?? null })
    })
    return subjectView(sheet, subject, enrolment, as, now, stores)
  })

  serve(contract.startShared, (context) => {
    const { sheet, body, now } = context
    const all = sheets.groups(sheet.id)
    const wanted = body.groups === null ? all : all.filter(({ code }) => body.groups?.includes(code))
    // One that has no talk is passed over, unless none has any.
    const chosen = wanted.filter((group) => groups.extrasFor(group).talk)
    if (wanted[0] && chosen.length === 0) extraOn(wanted[0], 'talk', stores)
    if (chosen.length === 0) throw fieldProblem('groups', 'Choose one group at least.')
    const shared = newCode()
    unit.onSheet(sheet, now, (_, telling) => {
      for (const { id } of chosen) {
        start(context, id, { ...body, shared })
        telling.page(id)
      }
    })
    return { groups: chosen.length }
  })

  serve(contract.reply, (context) => {
    const { sheet, enrolment, params, body, now } = context
    const { group, as } = reached(sheet, enrolment, params.group)
    const subject = subjectOn(group.id, params.subject)
    if (as === 'member' && subject.within_id === null && groups.extrasFor(group).starts === 'threads')
      throw new ProblemError(
        'staff-start',
        'Open a thread within this subject, or reply in one that is there.',
      )
    unit.onSheet(sheet, now, (_, telling) => {
      const post = talk.addPost(subject.id, enrolment.id, body.text, now)
      tellNamed(context, group.id, post, [])
      talk.setRead(enrolment.id, subject.id, post.id)
      telling.page(group.id)
    })
    return subjectView(sheet, subject, enrolment, as, now, stores)
  })

  serve(contract.editPost, (context) => {
    const { sheet, enrolment, params, body, now } = context
    const { group, as } = reached(sheet, enrolment, params.group)
    const subject = subjectOn(group.id, params.subject)
    const post = postOn(subject, params.post)
    if (post.by_id !== enrolment.id)
      throw new ProblemError('not-allowed', 'A post is edited by whoever wrote it.')
    if (post.removed_at !== null) throw notFound('That post was removed meanwhile.')
    if (post.text !== body.text) {
      unit.onSheet(sheet, now, (_, telling) => {
        talk.edit(post, body.text, now)
        tellNamed(context, group.id, { ...post, text: body.text }, talk.named(post.id))
        telling.page(group.id)
      })
    }
    return subjectView(sheet, subject, enrolment, as, now, stores)
  })

  serve(contract.removePost, ({ sheet, enrolment, params, now }) => {
    const { group, as } = reached(sheet, enrolment, params.group)
    const subject = subjectOn(group.id, params.subject)
    const post = postOn(subject, params.post)
    if (post.by_id !== enrolment.id && as === 'member')
      throw new ProblemError('not-allowed', 'A post is removed by whoever wrote it, or by your instructors.')
    if (post.removed_at === null) {
      unit.onSheet(sheet, now, (_, telling) => {
        talk.remove(post.id, enrolment.id, now)
        telling.page(group.id)
      })
    }
    return subjectView(sheet, subject, enrolment, as, now, stores)
  })

  serve(contract.markRead, ({ sheet, enrolment, params, body }) => {
    const { group } = reached(sheet, enrolment, params.group)
    const subject = subjectOn(group.id, params.subject)
    talk.setRead(enrolment.id, subject.id, postOn(subject, body.post).id)
    return null
  })

  function start(
    by: Acting,
    groupId: number,
    {
      title,
      text,
      shared,
      withinId = null,
    }: { title: string; text: string; shared: string | null; withinId?: number | null },
  ): Subject {
    const { subject, post } = talk.open(
      groupId,
      { title, text, byId: by.enrolment.id, shared, withinId },
      by.now,
    )
    tellNamed(by, groupId, post, [])
    talk.setRead(by.enrolment.id, subject.id, post.id)
    return subject
  }

  /** Notes whom a post names, and tells those by mail whom it did not name before. */
  function tellNamed(
    { sheet, enrolment, now, req }: Acting,
    groupId: number,
    post: Pick<Post, 'id' | 'text'>,
    before: readonly number[],
  ): void {
    const people = namedIn(sheet, groupId, enrolment, now, stores)
    const named = mentionsIn(
      post.text,
      people.map(({ id, name }) => ({ key: id, name })),
    )
    talk.setMentions(post.id, named)
    const path = `/sheets/${sheet.code}/groups/${sheets.groupById(groupId)?.code}`
    for (const person of people) {
      if (!named.includes(person.id) || before.includes(person.id)) continue
      const told = { enrolment_id: person.id, group_id: groupId, post_id: post.id }
      notice({ ...told, address: addressOf(sheet, req, path) }, now, stores, mailer)
    }
  }
}

/** Who does something, where and when, and under which address the server was asked. */
interface Acting {
  sheet: Sheet
  enrolment: Enrolment
  now: Instant
  req: Reached
}
