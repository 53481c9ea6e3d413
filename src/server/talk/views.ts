import type { PostView, SubjectHead, SubjectView } from '../../contract/talk.ts'
import type { Instant } from '../../core/instant.ts'
import type { As } from '../groups/reach.ts'
import type { Enrolment } from '../roster/store.ts'
import { namesFor } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { Subject } from './store.ts'

/** The subjects of a group, those with the newest posts first. */
export function subjectHeads(
  sheet: Sheet,
  groupId: number,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): SubjectHead[] {
  const { talk } = stores
  const nameOf = namesFor(sheet, reader, now, stores)
  const states = talk.states(groupId, reader.id)
  return talk
    .ofGroup(groupId)
    .flatMap(({ id, code, title, by_id, begun_at, shared, within_id }): SubjectHead[] => {
      const state = states.get(id)
      if (!state) return []
      return [
        {
          code,
          title,
          by: nameOf(by_id),
          begunAt: begun_at,
          replies: state.posts - 1,
          lastAt: state.last_at,
          lastBy: nameOf(state.last_by),
          unread: state.unread,
          mentioned: state.mentions > 0,
          shared: shared !== null,
          within: within_id === null ? null : (talk.subjectById(within_id)?.code ?? null),
        },
      ]
    })
    .toSorted((a, b) => (a.lastAt < b.lastAt ? 1 : -1))
}

/** A subject with its posts. What was edited away or removed is given to its writer and to staff alone. */
export function subjectView(
  sheet: Sheet,
  subject: Subject,
  reader: Enrolment,
  as: As,
  now: Instant,
  stores: Stores,
): SubjectView {
  const { talk } = stores
  const nameOf = namesFor(sheet, reader, now, stores)
  const staff = as !== 'member'
  const earlier = talk.earlier(subject.id)
  const named = talk.mentions(subject.id, reader.id)
  const read = talk.readUpTo(reader.id, subject.id)
  const posts = talk.posts(subject.id)
  return {
    code: subject.code,
    title: subject.title,
    shared: subject.shared !== null,
    posts: posts.map((post): PostView => {
      const { id, code, by_id, text, posted_at, edited_at, removed_at, removed_by } = post
      const yours = by_id === reader.id
      const removed = removed_at !== null
      const before = earlier
        .filter(({ post_id }) => post_id === id)
        .map(({ text, replaced_at }) => ({ text, until: replaced_at }))
      return {
        code,
        by: nameOf(by_id),
        yours,
        text: removed ? '' : text,
        postedAt: posted_at,
        editedAt: edited_at,
        removed: removed_at === null ? null : { at: removed_at, by: nameOf(removed_by ?? 0) },
        earlier:
          yours || staff ? [...before, ...(removed_at === null ? [] : [{ text, until: removed_at }])] : [],
        mentionsYou: named.has(id),
        mayEdit: yours && !removed,
        mayRemove: (yours || staff) && !removed,
      }
    }),
    firstUnread:
      posts.find(({ id, by_id, removed_at }) => id > read && by_id !== reader.id && removed_at === null)
        ?.code ?? null,
  }
}
