import { object, string } from 'yup'
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

const words = text('A post', LIMITS.brief * 2)
  .trim()
  .required('Write something first.')
const subjectTitle = title('The subject').required('The subject is missing.')
export const subjectBody = object({ title: subjectTitle, text: words })
export const postBody = object({ text: words })
export const sharedBody = object({
  title: subjectTitle,
  text: words,
  /** In which groups, by code; null for all. */
  groups: codes(LIMITS.topics * LIMITS.sections)
    .nullable()
    .defined(),
})
/** Up to which post somebody has read. */
export const readBody = object({ post: string().required() })

const AT = '/api/sheets/:sheet/groups/:group/talk'
export const subject = plainRoute<SubjectView>()('GET', `${AT}/:subject`, 'member')
/** Opens a subject. */
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
