import { boolean, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { codes, text, title } from './fields.ts'
import { plainRoute, route, whileArchived } from './route.ts'

/** A subject of a group's talk, as the list shows it. */
export interface SubjectHead {
  code: string
  title: string
  by: string
  begunAt: string
  /** Replies; the first post is not counted. */
  replies: number
  lastAt: string
  lastBy: string
  /** Posts that the reader has not read. */
  unread: number
  /** Whether one of those names the reader. */
  mentioned: boolean
  /** True when it was opened in several groups at once. */
  shared: boolean
  /** The subject that it is a thread of, by code; null for a subject. */
  within: string | null
}

export interface PostView {
  code: string
  by: string
  yours: boolean
  /** Markdown; empty when it was removed. */
  text: string
  postedAt: string
  editedAt: string | null
  removed: { at: string; by: string } | null
  /** What it said before it was edited or removed, oldest first. Only its writer and staff are given it. */
  earlier: { text: string; until: string }[]
  mentionsYou: boolean
  mayEdit: boolean
  mayRemove: boolean
}

export interface SubjectView {
  code: string
  title: string
  shared: boolean
  posts: PostView[]
  /** The first post that the reader has not read; null when all are read. */
  firstUnread: string | null
}

/** What a post says. */
export const postText = text('A post', LIMITS.brief * 2)
  .trim()
  .required('Write something first.')
/** What a subject is called. */
export const subjectTitle = title('The subject').required('The subject is missing.')
export const subjectBody = object({
  title: subjectTitle,
  text: postText,
  /** The subject in which a thread is opened, by code; null for a subject. */
  within: string().nullable().default(null),
})
export const postBody = object({ text: postText })
export const sharedBody = object({
  title: subjectTitle,
  text: postText,
  /** In which groups, by code; null for all. */
  groups: codes(LIMITS.topics * LIMITS.sections)
    .nullable()
    .defined(),
})
/** Up to which post somebody has read. */
export const readBody = object({ post: string().required() })

/** Whether somebody wants unread talk of all their groups by mail, once a day at most. */
export interface TalkDigest {
  on: boolean
}
export const digestBody = object({ on: boolean().required() })
export const talkDigest = plainRoute<TalkDigest>()('GET', '/api/talk-digest', 'signed-in')
export const setTalkDigest = route<TalkDigest>()('PUT', '/api/talk-digest', 'signed-in', digestBody)

const AT = '/api/sheets/:sheet/groups/:group/talk'
export const subject = plainRoute<SubjectView>()('GET', `${AT}/:subject`, 'member')
/** Opens a subject, or a thread within one. */
export const startSubject = route<SubjectView>()('POST', AT, 'member', subjectBody)
/** Opens one subject in several groups at once; each group talks for itself. */
export const startShared = route<{ groups: number }>()(
  'POST',
  '/api/sheets/:sheet/talk',
  'instructor',
  sharedBody,
)
export const reply = route<SubjectView>()('POST', `${AT}/:subject/posts`, 'member', postBody)
/** Changes an own post; what it said before is kept. */
export const editPost = route<SubjectView>()('PATCH', `${AT}/:subject/posts/:post`, 'member', postBody)
/** Removes a post: its place stays, with who did it. */
export const removePost = plainRoute<SubjectView>()('DELETE', `${AT}/:subject/posts/:post`, 'member')
export const markRead = whileArchived(route<null>()('POST', `${AT}/:subject/read`, 'member', readBody))
