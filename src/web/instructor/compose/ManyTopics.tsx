import { Tabs } from 'radix-ui'
import { useState } from 'react'
import { sheetAddresses } from '../../../contract/seats.ts'
import type { ComposeView } from '../../../contract/sheets.ts'
import { addTopics, type NewTopic, removeTopic } from '../../../contract/topics.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { download } from '../../data/download.ts'
import { Button } from '../../kit/Button.tsx'
import { Generator } from './Generator.tsx'
import { TopicsFromList } from './TopicsFromList.tsx'
import { anybodyKept, topicsFile } from './topicsFile.ts'
import type { Composing } from './useComposing.ts'

const TAB =
  'min-h-9 border-b-2 border-transparent px-1 font-semibold text-soft data-[state=active]:border-seat data-[state=active]:text-ink'

/** Many topics at once: pasted or from a file, or made by a pattern; looked at before they are added. */
export function ManyTopics({
  view,
  composing,
  pasted,
  onClose,
}: {
  view: ComposeView
  composing: Composing
  pasted: string
  onClose: () => void
}) {
  const room = LIMITS.topics - view.topics.length
  const [fault, setFault] = useState<string | null>(null)
  const add = async (topics: NewTopic[]) => {
    const known = new Set(view.topics.map(({ code }) => code))
    const added: string[] = []
    const sheet = view.code
    const { fault: refused } = await composing.do({
      work: async () => {
        const next = await call(addTopics, { sheet }, { topics })
        added.splice(
          0,
          added.length,
          ...next.topics.map(({ code }) => code).filter((code) => !known.has(code)),
        )
        return next
      },
      undo: async (confirmed) => {
        let last: ComposeView | null = null
        for (const topic of added) last = await call(removeTopic, { sheet, topic }, { confirmed })
        return last ?? view
      },
      said: topics.length === 1 ? '1 topic was added.' : `${topics.length} topics were added.`,
      beside: true,
    })
    setFault(refused && refusalWords(refused, topics))
    if (refused) return
    onClose()
  }
  /** Seats kept for people go out with their addresses, which this page has not. */
  const save = async () => {
    setFault(null)
    try {
      const { people } = anybodyKept(view) ? await call(sheetAddresses, { sheet: view.code }) : { people: [] }
      download(`${view.title} topics.csv`, topicsFile(view, people), 'text/csv')
    } catch (refused) {
      setFault(faultOf(refused).message)
    }
  }
  return (
    <section aria-label="Many topics at once" className="border-y border-line bg-canvas px-4 py-3">
      <Tabs.Root defaultValue="list">
        <div className="mb-3 flex items-center justify-between gap-3">
          <Tabs.List className="flex gap-5" aria-label="Where the topics come from">
            <Tabs.Trigger value="list" className={TAB}>
              From a list
            </Tabs.Trigger>
            <Tabs.Trigger value="pattern" className={TAB}>
              By a pattern
            </Tabs.Trigger>
          </Tabs.List>
          <span className="flex gap-2">
            {view.topics.length > 0 && (
              <Button size="small" look="quiet" onClick={() => void save()}>
                Save the topics as CSV
              </Button>
            )}
            <Button size="small" look="quiet" onClick={onClose}>
              Close
            </Button>
          </span>
        </div>
        <Tabs.Content value="list">
          <TopicsFromList view={view} room={room} pasted={pasted} onAdd={add} />
        </Tabs.Content>
        <Tabs.Content value="pattern">
          <Generator room={room} onAdd={add} />
        </Tabs.Content>
      </Tabs.Root>
      {fault && (
        <p role="alert" className="mt-2 text-ember">
          {fault}
        </p>
      )}
    </section>
  )
}

/** What is wrong, with the title of the topic that it is wrong with. */
function refusalWords({ problem, message }: Fault, topics: readonly NewTopic[]): string {
  const [first] = problem.errors ?? []
  if (!first) return message
  const at = /^topics\[(\d+)\]/.exec(first.path)?.[1]
  const title = at === undefined ? undefined : topics[Number(at)]?.title
  return title ? `${title}: ${first.message}` : first.message
}
