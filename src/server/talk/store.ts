import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface Subject {
  id: number
  code: string
  group_id: number
  title: string
  by_id: number
  begun_at: Instant
  shared: string | null
  /** The subject that a thread stands in; null for a subject. */
  within_id: number | null
}

export interface Post {
  id: number
  code: string
  subject_id: number
  by_id: number
  text: string
  posted_at: Instant
  edited_at: Instant | null
  removed_at: Instant | null
  removed_by: number | null
}

/** How far a subject has come for one reader. */
export interface SubjectState {
  subject_id: number
  posts: number
  last_at: Instant
  last_by: number
  unread: number
  mentions: number
}

export type TalkStore = ReturnType<typeof createTalkStore>

const SUBJECT = 'SELECT id, code, group_id, title, by_id, begun_at, shared, within_id FROM talk_subject'
const POST = `SELECT p.id, p.code, p.subject_id, p.by_id, p.text, p.posted_at, p.edited_at, p.removed_at, p.removed_by
  FROM talk_post p`

/** The talk of groups: subjects, posts, what was read of them, and whom they name. */
export function createTalkStore(db: Db) {
  const ofGroup = db.prepare<[number], Subject>(`${SUBJECT} WHERE group_id = ? ORDER BY id`)
  const byCode = db.prepare<[number, string], Subject>(`${SUBJECT} WHERE group_id = ? AND code = ?`)
  const add = db.prepare<[string, number, string, number, Instant, string | null, number | null]>(
    'INSERT INTO talk_subject (code, group_id, title, by_id, begun_at, shared, within_id) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const posts = db.prepare<[number], Post>(`${POST} WHERE p.subject_id = ? ORDER BY p.id`)
  const postByCode = db.prepare<[number, string], Post>(`${POST} WHERE p.subject_id = ? AND p.code = ?`)
  const postById = db.prepare<[number], Post>(`${POST} WHERE p.id = ?`)
  const subjectById = db.prepare<[number], Subject>(`${SUBJECT} WHERE id = ?`)
  const addPost = db.prepare<[string, number, number, string, Instant]>(
    'INSERT INTO talk_post (code, subject_id, by_id, text, posted_at) VALUES (?, ?, ?, ?, ?)',
  )
  const newestReplies = db.prepare<[number, number], Post>(
    `${POST} JOIN talk_subject s ON s.id = p.subject_id WHERE s.group_id = ? AND p.removed_at IS NULL
       AND p.id > (SELECT min(f.id) FROM talk_post f WHERE f.subject_id = s.id) ORDER BY p.id DESC LIMIT ?`,
  )
  const keepEarlier = db.prepare<[number, Instant, string]>(
    'INSERT INTO talk_earlier (post_id, replaced_at, text) VALUES (?, ?, ?)',
  )
  const edit = db.prepare<[string, Instant, number]>(
    'UPDATE talk_post SET text = ?, edited_at = ? WHERE id = ?',
  )
  const remove = db.prepare<[Instant, number, number]>(
    'UPDATE talk_post SET removed_at = ?, removed_by = ? WHERE id = ?',
  )
  const earlier = db.prepare<[number], { post_id: number; replaced_at: Instant; text: string }>(
    `SELECT e.post_id, e.replaced_at, e.text FROM talk_earlier e JOIN talk_post p ON p.id = e.post_id
     WHERE p.subject_id = ? ORDER BY e.rowid`,
  )
  const addMention = db.prepare<[number, number]>(
    'INSERT OR IGNORE INTO talk_mention (post_id, enrolment_id) VALUES (?, ?)',
  )
  const dropMentions = db.prepare<[number]>('DELETE FROM talk_mention WHERE post_id = ?')
  const mentions = db
    .prepare<[number, number], number>(
      `SELECT m.post_id FROM talk_mention m JOIN talk_post p ON p.id = m.post_id
       WHERE p.subject_id = ? AND m.enrolment_id = ?`,
    )
    .pluck()
  const named = db
    .prepare<[number], number>('SELECT enrolment_id FROM talk_mention WHERE post_id = ?')
    .pluck()
  const readUpTo = db
    .prepare<[number, number], number>(
      'SELECT post_id FROM talk_read WHERE enrolment_id = ? AND subject_id = ?',
    )
    .pluck()
  const setRead = db.prepare<[number, number, number]>(
    `INSERT INTO talk_read (enrolment_id, subject_id, post_id) VALUES (?, ?, ?)
     ON CONFLICT (enrolment_id, subject_id) DO UPDATE SET post_id = max(post_id, excluded.post_id)`,
  )
  // Nobody has to read what they wrote themselves, or what was removed.
  const states = db.prepare<[number, number, number, number], SubjectState>(
    `SELECT s.id AS subject_id, count(*) AS posts, max(p.posted_at) AS last_at,
       (SELECT l.by_id FROM talk_post l WHERE l.subject_id = s.id ORDER BY l.id DESC LIMIT 1) AS last_by,
       sum(p.id > ifnull(r.post_id, 0) AND p.by_id <> ? AND p.removed_at IS NULL) AS unread,
       sum(p.id > ifnull(r.post_id, 0) AND p.removed_at IS NULL AND m.post_id IS NOT NULL) AS mentions
     FROM talk_subject s JOIN talk_post p ON p.subject_id = s.id
       LEFT JOIN talk_read r ON r.subject_id = s.id AND r.enrolment_id = ?
       LEFT JOIN talk_mention m ON m.post_id = p.id AND m.enrolment_id = ?
     WHERE s.group_id = ? GROUP BY s.id`,
  )
  const unread = db
    .prepare<[number, number, number], number>(
      `SELECT count(*) FROM talk_subject s JOIN talk_post p ON p.subject_id = s.id
         LEFT JOIN talk_read r ON r.subject_id = s.id AND r.enrolment_id = ?
       WHERE s.group_id = ? AND p.id > ifnull(r.post_id, 0) AND p.by_id <> ? AND p.removed_at IS NULL`,
    )
    .pluck()
  const subjectsOf = db.prepare<[string], { group_id: number; subjects: number }>(
    `SELECT group_id, count(*) AS subjects FROM talk_subject
     WHERE group_id IN (SELECT value FROM json_each(?)) GROUP BY group_id`,
  )
  const unreadOf = db.prepare<[number, string, number], { group_id: number; unread: number }>(
    `SELECT s.group_id, count(*) AS unread FROM talk_subject s JOIN talk_post p ON p.subject_id = s.id
       LEFT JOIN talk_read r ON r.subject_id = s.id AND r.enrolment_id = ?
     WHERE s.group_id IN (SELECT value FROM json_each(?)) AND p.id > ifnull(r.post_id, 0) AND p.by_id <> ?
       AND p.removed_at IS NULL GROUP BY s.group_id`,
  )
  return {
    ofGroup: (groupId: number) => ofGroup.all(groupId),
    byCode: (groupId: number, code: string) => byCode.get(groupId, code),
    /** Opens a subject with its first post. */
    open(
      groupId: number,
      {
        title,
        byId,
        text,
        shared,
        withinId = null,
      }: { title: string; byId: number; text: string; shared: string | null; withinId?: number | null },
      now: Instant,
    ): { subject: Subject; post: Post } {
      const code = newCode()
      add.run(code, groupId, title, byId, now, shared, withinId)
      const subject = byCode.get(groupId, code) as Subject
      return { subject, post: this.addPost(subject.id, byId, text, now) }
    },
    posts: (subjectId: number) => posts.all(subjectId),
    postById: (id: number) => postById.get(id),
    subjectById: (id: number) => subjectById.get(id),
    post: (subjectId: number, code: string) => postByCode.get(subjectId, code),
    addPost(subjectId: number, byId: number, text: string, now: Instant): Post {
      const code = newCode()
      addPost.run(code, subjectId, byId, text, now)
      return postByCode.get(subjectId, code) as Post
    },
    /** The newest posts of a group that are no first ones, newest first. */
    newestReplies: (groupId: number, most: number) => newestReplies.all(groupId, most),
    /** Changes a post and keeps what it said before. */
    edit({ id, text: before }: Post, text: string, now: Instant): void {
      keepEarlier.run(id, now, before)
      edit.run(text, now, id)
    },
    remove: (id: number, byId: number, now: Instant) => remove.run(now, byId, id),
    /** What posts of a subject said before, oldest first. */
    earlier: (subjectId: number) => earlier.all(subjectId),
    setMentions(postId: number, enrolmentIds: readonly number[]): void {
      dropMentions.run(postId)
      for (const id of enrolmentIds) addMention.run(postId, id)
    },
    /** Posts of a subject that name somebody, by id. */
    mentions: (subjectId: number, enrolmentId: number) => new Set(mentions.all(subjectId, enrolmentId)),
    /** Whom a post names. */
    named: (postId: number) => named.all(postId),
    /** The newest post that somebody has read of a subject; 0 before the first. */
    readUpTo: (enrolmentId: number, subjectId: number) => readUpTo.get(enrolmentId, subjectId) ?? 0,
    setRead: (enrolmentId: number, subjectId: number, postId: number) =>
      setRead.run(enrolmentId, subjectId, postId),
    /** How each subject of a group stands for a reader. */
    states: (groupId: number, enrolmentId: number) =>
      new Map(
        states.all(enrolmentId, enrolmentId, enrolmentId, groupId).map((state) => [state.subject_id, state]),
      ),
    /** How many subjects each group has; groups with none are left out. */
    subjectsOf: (groupIds: readonly number[]) =>
      new Map(subjectsOf.all(JSON.stringify(groupIds)).map(({ group_id, subjects }) => [group_id, subjects])),
    /** Posts that somebody has not read, by group; groups with none are left out. */
    unreadOf: (groupIds: readonly number[], enrolmentId: number) =>
      new Map(
        unreadOf
          .all(enrolmentId, JSON.stringify(groupIds), enrolmentId)
          .map(({ group_id, unread }) => [group_id, unread]),
      ),
    /** Posts of a group that somebody has not read. */
    unread: (groupId: number, enrolmentId: number) => unread.get(enrolmentId, groupId, enrolmentId) ?? 0,
  }
}
