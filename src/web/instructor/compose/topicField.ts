import type { ComposeView } from '../../../contract/sheets.ts'
import type { GroupChanges, TopicChanges } from '../../../contract/topics.ts'
import type { GroupView, TopicView } from '../../../contract/topicViews.ts'
import { sayLimit } from '../record/limits.ts'
import { sayLocal } from './cells.tsx'
import type { RowContext } from './rowContext.ts'
import type { FieldOf } from './useField.ts'

/** A text that is sent as it was typed. */
export const same = (typed: string): string => typed

type TopicFieldName = Exclude<keyof TopicChanges, 'confirmed' | 'was' | 'mixed' | 'bringBack'>

/** A field of a topic as it keeps itself: what was typed is sent as `sent` makes it. */
export function topicField(
  topic: TopicView,
  { code, zone, composing }: RowContext,
  name: TopicFieldName,
  sent: (typed: string) => unknown,
): FieldOf<string> {
  const read = (one: TopicView | undefined) => (one ? shown(one[name], name, zone) : '')
  return {
    key: `compose ${code} topic ${topic.code} ${name}`,
    value: read(topic),
    keep: (typed, was) => composing.topic(topic.code, { [name]: sent(typed) }, { [name]: sent(was) }),
    read: (view) => read(view.topics.find((one) => one.code === topic.code)),
    refetch: composing.refetch,
  }
}

type GroupFieldName = keyof GroupView['own']

/** An exception of one group as it keeps itself. */
export function groupField(
  group: GroupView,
  { code, zone, composing }: RowContext,
  name: GroupFieldName,
  sent: (typed: string) => unknown,
): FieldOf<string> {
  const read = (one: GroupView | undefined) => (one ? shown(one.own[name], name, zone) : '')
  return {
    key: `compose ${code} group ${group.code} ${name}`,
    value: read(group),
    keep: (typed, was) =>
      composing.group(
        group.code,
        { [name]: sent(typed) } as GroupChanges,
        { [name]: sent(was) } as GroupChanges,
      ),
    read: (view) => read(groupIn(view, group.code)),
    refetch: composing.refetch,
  }
}

/** A group of the sheet by its code. */
export function groupIn(view: ComposeView, code: string): GroupView | undefined {
  return view.topics.flatMap(({ groups }) => groups).find((one) => one.code === code)
}

function shown(value: string | number | null, name: string, zone: string): string {
  if (name === 'seats') return sayLimit(value as number | null)
  if (name === 'startsAt' || name === 'endsAt') return sayLocal(value as string | null, zone)
  return value === null ? '' : String(value)
}
