/**
 * Every way a request can be answered with "no": code, HTTP status and title. Answers are problem details
 * (RFC 9457) whose `type` is `/api/problems/<code>`; `detail` says what is wrong in this case and what to do.
 */
export const PROBLEMS = {
  'not-signed-in': { status: 401, title: 'You are not signed in' },
  'link-not-valid': { status: 422, title: 'That link lets nobody in any more' },
  'passkey-not-valid': { status: 422, title: 'That passkey cannot be used' },
  'code-not-valid': { status: 422, title: 'That code does not fit' },
  'too-many-tries': { status: 429, title: 'Too many tries' },
  'wrong-origin': { status: 403, title: 'The request came from another site' },
  'too-many-tokens': { status: 409, title: 'The course has as many tokens as it can have' },
  'not-for-programs': { status: 403, title: 'Programs may not do this' },
  'not-allowed': { status: 403, title: 'You may not do this' },
  'not-found': { status: 404, title: 'There is nothing here' },
  'not-on-roster': { status: 403, title: 'You are not on this course’s roster' },
  'body-malformed': { status: 400, title: 'The request could not be read' },
  'body-too-large': { status: 413, title: 'That is too much at once' },
  'body-invalid': { status: 422, title: 'Something in it cannot be kept' },
  'time-never-occurs': { status: 422, title: 'That time does not occur' },
  'time-occurs-twice': { status: 422, title: 'That time occurs twice' },
  'window-closes-before-opening': { status: 422, title: 'The window closes before it opens' },
  'course-code-taken': { status: 409, title: 'You already have a course with this code' },
  'section-names-repeat': { status: 422, title: 'Two sections have the same name' },
  'roster-unreadable': { status: 422, title: 'The roster cannot be read' },
  'roster-has-faults': { status: 422, title: 'Some lines of the roster are wrong' },
  'roster-without-instructor': { status: 422, title: 'The course would have no instructor' },
  'topic-limit-reached': { status: 422, title: 'The sheet has as many topics as it can hold' },
  'rehearsal-failed': { status: 503, title: 'The rehearsal could not begin' },
  'rehearsal-over': { status: 404, title: 'The rehearsal is over' },
  'section-in-use': { status: 409, title: 'A sheet is for that section alone' },
  'course-archived': { status: 409, title: 'The course is archived' },
  'list-in-use': { status: 409, title: 'A sheet or a task is for that list' },
  'seated-affected': { status: 409, title: 'People who sit there are affected' },
  'sheet-not-ready': { status: 422, title: 'The sheet cannot go out yet' },
  'sheet-not-published': { status: 409, title: 'The sheet is not published' },
  'window-not-open-yet': { status: 409, title: 'The sheet is not open yet' },
  'window-closed': { status: 409, title: 'The sheet is closed' },
  'sheet-archived': { status: 409, title: 'The sheet is archived' },
  'seats-by-wishes': { status: 409, title: 'Seats are given by wishes here' },
  'no-wishes-here': { status: 409, title: 'Nobody ranks topics on this sheet' },
  'no-swaps-here': { status: 409, title: 'Your seat cannot be swapped now' },
  'swap-over': { status: 409, title: 'That swap is over' },
  'wishes-not-settled': { status: 409, title: 'Seats were not given by wishes here' },
  'groups-are-made': { status: 409, title: 'The instructor makes the groups' },
  'not-a-student': { status: 403, title: 'Only students take seats' },
  'enrolment-not-active': { status: 403, title: 'You are not active in this course' },
  'group-not-found': { status: 404, title: 'There is no such group' },
  'other-section': { status: 409, title: 'That group belongs to another section' },
  'already-seated-here': { status: 409, title: 'You already sit here' },
  'seat-limit-reached': { status: 409, title: 'You already have a seat' },
  'change-only-by-asking': { status: 409, title: 'Seats change only by asking' },
  'change-not-allowed': { status: 409, title: 'Seats do not change on this sheet' },
  'time-clash': { status: 409, title: 'Two of your seats would be at the same time' },
  'group-not-offered': { status: 409, title: 'That group is not offered' },
  'request-not-needed': { status: 409, title: 'There is no need to ask' },
  'request-open-already': { status: 409, title: 'You have asked already' },
  'request-answered': { status: 409, title: 'That request was answered' },
  'seat-not-held': { status: 409, title: 'You do not sit there' },
  'group-full': { status: 409, title: 'That group is full' },
  'line-goes-first': { status: 409, title: 'Others wait in line for that seat' },
  'no-waiting-line': { status: 409, title: 'There is no waiting line' },
  'seat-is-free': { status: 409, title: 'There is a free seat' },
  'already-in-line': { status: 409, title: 'You wait in that line already' },
  'not-in-line': { status: 409, title: 'You do not wait in that line' },
  'invitations-not-allowed': { status: 409, title: 'Nobody invites on this sheet' },
  'window-not-open': { status: 409, title: 'The sheet is not open' },
  'not-the-convener': { status: 403, title: 'You do not answer for this group' },
  'no-seat-to-offer': { status: 409, title: 'There is no seat to offer' },
  'cannot-be-invited': { status: 409, title: 'That student cannot be invited' },
  'already-invited': { status: 409, title: 'That student is invited already' },
  'invitation-answered': { status: 409, title: 'That invitation was answered' },
  'seat-without-date': { status: 409, title: 'There is no dated seat' },
  'seating-not-possible': { status: 409, title: 'That seating is not possible' },
  'seating-needs-care': { status: 409, title: 'Something speaks against it' },
  'not-your-group': { status: 403, title: 'You do not look after that group' },
  'plan-does-not-fit': { status: 409, title: 'The plan does not fit any more' },
  'plan-applied-already': { status: 409, title: 'The plan was applied already' },
  'plan-not-applied': { status: 409, title: 'The plan is not applied' },
  'keeping-too-small': { status: 422, title: 'It takes two people at least' },
  'nothing-to-undo': { status: 409, title: 'There is nothing left to undo' },
  'nobody-to-write-to': { status: 409, title: 'There is nobody to write to' },
  'work-handed-in': { status: 409, title: 'Work was handed in' },
  'task-times-wrong': { status: 422, title: 'These times do not fit each other' },
  'task-fixed': { status: 409, title: 'That does not change any more' },
  'task-locked': { status: 409, title: 'The task is locked' },
  'task-over': { status: 409, title: 'It is too late for that' },
  'nothing-handed-in': { status: 409, title: 'Nothing was handed in' },
  'late-instead': { status: 409, title: 'What was handed in in time counts' },
  'handed-in-meanwhile': { status: 409, title: 'Somebody handed in meanwhile' },
  'hand-in-empty': { status: 422, title: 'There is nothing to hand in' },
  'file-too-large': { status: 413, title: 'The file is too large' },
  'file-name-unusable': { status: 422, title: 'The file’s name cannot be kept' },
  'too-many-files': { status: 422, title: 'There are as many files as there can be' },
  'no-room-left': { status: 413, title: 'There is no room left' },
  'upload-elsewhere': { status: 409, title: 'The file has arrived up to another place' },
  'upload-past-end': { status: 422, title: 'More came than the file has' },
  'disk-full': { status: 507, title: 'The server has no room left' },
  'extra-off': { status: 409, title: 'Groups of this sheet do not have that' },
  'staff-start': { status: 403, title: 'Your instructors start the subjects' },
  'differences-meet': { status: 409, title: 'Somebody is in two differences' },
  'too-many-words': { status: 422, title: 'The text is too long' },
  'nothing-to-draw': { status: 409, title: 'There is nothing left to draw' },
  'shares-closed': { status: 409, title: 'How the work was shared is not asked now' },
  'shares-wrong': { status: 422, title: 'The points do not add up' },
  'no-hand-in': { status: 409, title: 'Nothing is handed in for this task' },
  'marks-affected': { status: 409, title: 'Marks that were given are affected' },
  'marks-have-faults': { status: 422, title: 'Some lines of the marks are wrong' },
  'marks-unreadable': { status: 422, title: 'The marks cannot be read' },
  'changed-meanwhile': { status: 409, title: 'It was changed meanwhile' },
  'draft-held': { status: 409, title: 'Somebody else is writing' },
  'draft-changed': { status: 409, title: 'What is written was changed meanwhile' },
  'marked-meanwhile': { status: 409, title: 'Somebody marked it meanwhile' },
  'version-withdrawn': { status: 409, title: 'That version was withdrawn' },
  'remark-changed': { status: 409, title: 'Somebody changed the remark meanwhile' },
  'remark-answered': { status: 409, title: 'That remark takes no answer from you' },
  'pdf-not-made': { status: 503, title: 'The PDF could not be made' },
  'points-past-most': { status: 422, title: 'More points than there are' },
  'nothing-to-release': { status: 409, title: 'There is nothing to release' },
  'key-used-otherwise': { status: 422, title: 'This key was used for another claim' },
  'store-unavailable': { status: 503, title: 'Nothing can be written right now' },
  'too-busy': { status: 503, title: 'Too many ask at once' },
  'server-fault': { status: 500, title: 'Something went wrong on our side' },
} as const satisfies Record<string, { status: number; title: string }>

export type ProblemCode = keyof typeof PROBLEMS

/** One field that cannot be kept, by its path in the request's body. */
export interface FieldFault {
  path: string
  message: string
}

/** Somebody whom a change would affect. */
export interface AffectedPerson {
  name: string
  section: string | null
}

/** Something that speaks against a seating, in words, with the person it is about. */
export interface Concern {
  /** The person's code. */
  person: string
  name: string
  words: string
}

/** Somebody who can help. */
export interface Contact {
  name: string
  email: string
}

/** A "no" as it travels: RFC 9457 problem details with a code of ours. */
export interface Problem {
  type: string
  code: ProblemCode
  title: string
  status: number
  detail: string
  errors?: FieldFault[]
  affected?: AffectedPerson[]
  /** Whom to ask. */
  contacts?: Contact[]
  /** What speaks against it. */
  concerns?: Concern[]
}
