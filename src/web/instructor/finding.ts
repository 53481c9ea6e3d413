import type { CoursesView } from '../../contract/courses.ts'
import type { FindView } from '../../contract/find.ts'
import type { RunView } from '../../contract/seats.ts'
import { searchable } from '../../core/names.ts'

/** Something that the find box finds. */
export interface Finding {
  /** Names it among all that is found. */
  key: string
  title: string
  /** What it is, in a word or two. */
  what: string
  /** Other words that it is found by: what people call it elsewhere. */
  also?: string
  /** Keys that lead there without the box. */
  keys?: string
  to: string
  /** Found only by typing: there are too many of its kind to offer. */
  typedOnly?: boolean
}

/** Most that is shown at once. */
const MOST = 40

/** What fits what was typed, those first whose title begins so; without anything typed, what can be offered. */
export function sought(all: readonly Finding[], typed: string): Finding[] {
  const words = typed.split(/\s+/).filter(Boolean)
  if (words.length === 0) return all.filter(({ typedOnly }) => !typedOnly).slice(0, MOST)
  const fitting = all.flatMap((finding) => {
    const title = searchable(finding.title)
    const text = `${title} ${searchable(`${finding.also ?? ''} ${finding.what}`)}`
    if (!words.every((word) => text.includes(word))) return []
    return [{ finding, first: title.startsWith(typed) ? 0 : title.includes(typed) ? 1 : 2 }]
  })
  return fitting
    .sort((a, b) => a.first - b.first)
    .slice(0, MOST)
    .map(({ finding }) => finding)
}

const STAGES: readonly { path: string; title: (sheet: string) => string; keys?: string; also: string }[] = [
  { path: 'compose', title: (sheet) => `Compose ${sheet}`, keys: 'G C', also: 'edit topics window rules' },
  { path: 'run', title: (sheet) => `Watch ${sheet} fill`, keys: 'G R', also: 'run seats' },
  { path: 'settle', title: (sheet) => `Settle ${sheet}`, keys: 'G S', also: 'plan seat the rest assign' },
  { path: 'work', title: (sheet) => `Tasks and marks of ${sheet}`, keys: 'G W', also: 'work grades' },
  { path: 'work/groups', title: (sheet) => `Group pages of ${sheet}`, also: 'talk files' },
  { path: 'ledger', title: (sheet) => `Ledger of ${sheet}`, keys: 'G L', also: 'record history undo' },
]

/** What is on a sheet: its stages, topics, groups and people. */
export function foundOn(
  { code, title }: { code: string; title: string },
  view: RunView | undefined,
): Finding[] {
  const stages = STAGES.map(({ path, title: said, keys, also }) => ({
    key: `stage ${path}`,
    title: said(title),
    what: 'stage',
    also,
    ...(keys && { keys }),
    to: `/sheets/${code}/${path}`,
  }))
  if (!view) return stages
  const topics = new Map(view.topics.map((topic) => [topic.code, topic.title]))
  const sections = new Map(view.sections.map((section) => [section.code, section.name]))
  const topicOf = new Map(view.groups.map((group) => [group.code, topics.get(group.topic) ?? '']))
  const sits = new Map(view.seats.map(({ person, group }) => [person, topicOf.get(group)]))
  return [
    ...stages,
    ...view.topics.map((topic) => ({
      key: `topic ${topic.code}`,
      title: topic.title,
      what: 'topic',
      to: `/sheets/${code}/run?topic=${topic.code}`,
    })),
    ...view.groups.map((group) => ({
      key: `group ${group.code}`,
      title: [topics.get(group.topic), sections.get(group.section ?? '')].filter(Boolean).join(', '),
      what: 'group page',
      to: `/sheets/${code}/groups/${group.code}`,
      typedOnly: true,
    })),
    ...view.people.map((person) => ({
      key: `person ${person.code}`,
      title: person.name,
      what: sits.get(person.code) ?? 'no group yet',
      to: `/sheets/${code}/run?person=${person.code}`,
      typedOnly: true,
    })),
  ]
}

/** What can be done and where one can go, from anywhere; on the open sheet first. */
export function actionsIn({ courses }: CoursesView, open: string | null, mayAddCourses: boolean): Finding[] {
  const found = courses.flatMap((course): Finding[] => {
    const instructor = course.role === 'instructor'
    const roster = `/courses/${course.code}/roster`
    const act = (key: string, title: string, to: string, also = ''): Finding => ({
      key: `${key} ${course.code}`,
      title,
      what: 'action',
      also,
      to,
      typedOnly: true,
    })
    return [
      ...course.sheets.flatMap((sheet): Finding[] => [
        ...(sheet.code === open
          ? []
          : [
              {
                key: `sheet ${sheet.code}`,
                title: sheet.title,
                what: `sheet, ${course.courseCode}`,
                also: course.title,
                to: `/sheets/${sheet.code}/${sheet.state === 'draft' ? 'compose' : 'run'}`,
              },
            ]),
        ...(instructor ? sheetActions(sheet, sheet.code === open) : []),
      ]),
      {
        key: `roster ${course.code}`,
        title: `Roster of ${course.courseCode}`,
        what: course.title,
        also: 'people students',
        to: roster,
      },
      ...(instructor
        ? [
            act(
              'import',
              `Import roster of ${course.courseCode}`,
              `${roster}?do=import`,
              'file csv students',
            ),
            act('add person', `Add a person to ${course.courseCode}`, `${roster}?do=add`, 'student tutor'),
            act(
              'new sheet',
              `New sheet in ${course.courseCode}`,
              `/courses/${course.code}/sheets/new`,
              'add create groups',
            ),
          ]
        : []),
    ]
  })
  if (!mayAddCourses) return found
  return [
    ...found,
    {
      key: 'add course',
      title: 'Add a course',
      what: 'action',
      also: 'new create',
      to: '/courses/new',
      typedOnly: true,
    },
  ]
}

function sheetActions(
  { code, title, state }: CoursesView['courses'][number]['sheets'][number],
  open: boolean,
): Finding[] {
  const act = (key: string, said: string, to: string, also = ''): Finding => ({
    key: `${key} ${code}`,
    title: `${said} ${title}`,
    what: open ? 'this sheet' : 'action',
    also,
    to: `/sheets/${code}/${to}`,
    typedOnly: true,
  })
  const out = state !== 'draft' && state !== 'archived'
  return [
    ...(state === 'draft' ? [act('publish', 'Publish', 'compose?do=publish')] : []),
    ...(out
      ? [act('nudge', 'Nudge those without a group:', 'run?nudge=none', 'write mail message remind')]
      : []),
    ...(out ? [act('announce', 'Announce by mail:', 'compose?do=announce', 'send message')] : []),
    ...(state === 'archived'
      ? [act('restore', 'Restore', 'compose?do=archive', 'archive unarchive')]
      : [act('archive', 'Archive', 'compose?do=archive', 'put away')]),
    act('copy', 'Copy', 'compose?do=copy', 'duplicate reuse'),
    act('delete', 'Delete', 'compose?do=delete', 'remove'),
    act('export', 'Export seats of', 'ledger', 'download csv xlsx spreadsheet'),
    act('doors', 'Print the door list of', 'doors', 'print'),
    act('task', 'Set a task on', 'work?do=task', 'add assignment new'),
    act('marks', 'Export marks of', 'work', 'download grades csv import'),
  ]
}

/** People and topics of all courses, but those that the open sheet has already. */
export function foundBeyond({ courses }: CoursesView, beyond: FindView, open: string | null): Finding[] {
  return beyond.courses.flatMap(({ code, people, topics }) => {
    const course = courses.find((one) => one.code === code)
    if (!course) return []
    const titles = new Map(course.sheets.map((sheet) => [sheet.code, sheet.title]))
    return [
      ...people.map((person) => ({
        key: `roster person ${code} ${person.code}`,
        title: person.name,
        what: [course.courseCode, person.section].filter(Boolean).join(', '),
        also: [person.listed, person.number, person.email].filter(Boolean).join(' '),
        to: `/courses/${code}/people/${person.code}`,
        typedOnly: true,
      })),
      ...topics
        .filter(({ sheet }) => sheet !== open)
        .map((topic) => ({
          key: `topic ${topic.code}`,
          title: topic.title,
          what: `topic, ${titles.get(topic.sheet) ?? course.courseCode}`,
          to: `/sheets/${topic.sheet}/run?topic=${topic.code}`,
          typedOnly: true,
        })),
    ]
  })
}
