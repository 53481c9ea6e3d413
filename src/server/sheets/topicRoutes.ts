import type { Restored } from '../../contract/restored.ts'
import * as contract from '../../contract/topics.ts'
import { isOnSheet } from '../../core/groupState.ts'
import { notFound } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Stores } from '../stores.ts'
import type { RunEdit } from './editing.ts'
import type { Sheet } from './store.ts'
import * as edits from './topicEdits.ts'
import type { Group, Topic } from './topicStore.ts'

/** Topics, the exceptions of single groups, and seats kept free. */
export function bindTopics(serve: Serve, { sheets }: Stores, edited: RunEdit): void {
  const topicOf = (sheet: Sheet, code: string): Topic => {
    const topic = sheets.topic(sheet.id, code)
    if (!topic) throw notFound('The sheet has no such topic.')
    return topic
  }
  const standing = (sheet: Sheet, code: string): Topic => {
    const topic = topicOf(sheet, code)
    if (topic.removed_at !== null) throw notFound('That topic was removed meanwhile.')
    return topic
  }
  const groupOf = (sheet: Sheet, code: string): Group => {
    const group = sheets.group(code)
    if (!group || group.sheet_id !== sheet.id || !isOnSheet(group))
      throw notFound('The sheet has no such group.')
    return group
  }

  serve(contract.addTopic, (context) =>
    edited(context, (edit) => {
      const { only, ...topic } = context.body
      if (only === undefined) edits.addTopics(edit, [topic])
      else edits.addInSection(edit, topic, only)
    }),
  )
  serve(contract.addTopics, (context) =>
    edited(context, (edit) => {
      edits.addTopics(edit, context.body.topics, 'topics')
    }),
  )
  serve(contract.orderTopics, (context) =>
    edited(context, (edit) => edits.orderTopics(edit, context.body.topics)),
  )
  serve(contract.changeTopic, (context) => {
    const topic = standing(context.sheet, context.params.topic)
    let restored: Restored | undefined
    const view = edited(context, (edit) => {
      restored = edits.changeTopic(edit, topic, context.body)
    })
    return { ...view, ...(restored && { restored }) }
  })
  serve(contract.removeTopic, (context) => {
    const topic = standing(context.sheet, context.params.topic)
    return edited(context, (edit) => edits.removeTopic(edit, topic, context.body.confirmed === true))
  })
  serve(contract.restoreTopic, (context) => {
    const topic = topicOf(context.sheet, context.params.topic)
    let restored: Restored = { seated: 0, out: [] }
    const view = edited(context, (edit) => {
      restored = edits.restoreTopic(edit, topic)
    })
    return { ...view, restored }
  })
  serve(contract.changeGroup, (context) => {
    const group = groupOf(context.sheet, context.params.group)
    let restored: Restored | undefined
    const view = edited(context, (edit) => {
      restored = edits.changeGroup(edit, group, context.body)
    })
    return { ...view, ...(restored && { restored }) }
  })
  serve(contract.changeLimits, (context) => {
    const changes = context.body.changes.map(({ group, seats, was }) => ({
      group: groupOf(context.sheet, group),
      seats,
      was,
    }))
    return edited(context, (edit) => edits.changeLimits(edit, changes, context.body.confirmed === true))
  })
  serve(contract.assignTutors, (context) => {
    const changes = context.body.changes.map((one) => ({ ...one, group: groupOf(context.sheet, one.group) }))
    return edited(context, (edit) => edits.assignTutors(edit, changes))
  })
  serve(contract.holdSeat, (context) => {
    const group = groupOf(context.sheet, context.params.group)
    return edited(context, (edit) =>
      edits.holdSeat(edit, group, context.body.person ?? null, context.body.note ?? ''),
    )
  })
  serve(contract.freeSeat, (context) => {
    const group = groupOf(context.sheet, context.params.group)
    return edited(context, (edit) => edits.freeSeat(edit, group, context.params.held))
  })
}
