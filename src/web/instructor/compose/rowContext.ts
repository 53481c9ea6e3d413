import type { ComposeView } from '../../../contract/sheets.ts'
import type { TopicChanges } from '../../../contract/topics.ts'
import type { TopicView } from '../../../contract/topicViews.ts'
import type { Composing } from './useComposing.ts'

/** What a row needs of the sheet besides its topic. Kept the same between edits, so that other rows stay still. */
export interface RowContext {
  code: string
  zone: string
  seats: number
  floor: number
  mayEdit: boolean
  sections: ComposeView['sections']
  clashes: ReadonlySet<string>
  composing: Composing
  /** Changes a topic, and says why not where that did not work. */
  fill: (topic: TopicView, patch: TopicChanges) => Promise<void>
  remove: (topic: TopicView) => void
  toggle: (code: string) => void
}
