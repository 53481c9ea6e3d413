import { Dialog, Tabs } from 'radix-ui'
import { useState } from 'react'
import { type NudgesView, nudges } from '../../../contract/nudges.ts'
import type { RunView } from '../../../contract/seats.ts'
import { useAnswer } from '../../data/answers.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { NudgeHistory } from './NudgeHistory.tsx'
import { NudgeLater } from './NudgeLater.tsx'
import { NudgeNow } from './NudgeNow.tsx'
import { FIRST_TEXT, GROUP_TEXT, RANK_TEXT } from './nudging.ts'

const TAB =
  'border-b-2 border-transparent pb-1 font-semibold text-soft data-[state=active]:border-ember data-[state=active]:text-ink'

/** Writing to those who have no group yet, or to others of the course. */
export function NudgeAsk({
  view,
  group,
  section,
  onClose,
}: {
  view: RunView
  /** The group that is written to first; null for those without one. */
  group: string | null
  /** The section that the tray shows alone. */
  section: string | null
  onClose: () => void
}) {
  const { data, error, mutate } = useAnswer(nudges, { sheet: view.code }, { refreshInterval: 5_000 })
  const [tab, setTab] = useState('write')
  const unsent = useUnsent(
    `letter ${view.code} ${group ?? ''}`,
    group !== null ? GROUP_TEXT : view.rules.road === 'wished' ? RANK_TEXT : FIRST_TEXT,
  )
  const [draft, setDraft] = [unsent.value, unsent.write]
  const put = (next: NudgesView) => void mutate(next, { revalidate: false })
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <DialogBox title="Write to students" width="large">
        {!data ? (
          error ? (
            <Trouble fault={error} retry={() => void mutate()} />
          ) : (
            <Loading what="whom to write to" />
          )
        ) : (
          <Tabs.Root value={tab} onValueChange={setTab}>
            <Tabs.List className="mb-3 flex gap-5 border-b border-line">
              <Tabs.Trigger value="write" className={TAB}>
                Now
              </Tabs.Trigger>
              <Tabs.Trigger value="later" className={TAB}>
                Before the close
              </Tabs.Trigger>
              <Tabs.Trigger value="history" className={TAB}>
                Sent ({data.nudges.filter(({ sentAt }) => sentAt !== null).length})
              </Tabs.Trigger>
            </Tabs.List>
            <Tabs.Content value="write">
              <NudgeNow
                view={view}
                data={data}
                group={group}
                section={section}
                draft={draft}
                setDraft={setDraft}
                put={put}
                onSent={() => {
                  unsent.drop()
                  setTab('history')
                }}
              />
            </Tabs.Content>
            <Tabs.Content value="later">
              <NudgeLater view={view} data={data} draft={draft} setDraft={setDraft} put={put} />
            </Tabs.Content>
            <Tabs.Content value="history">
              <NudgeHistory
                view={view}
                data={data}
                put={put}
                onAgain={(texts) => {
                  setDraft(texts)
                  setTab('write')
                }}
              />
            </Tabs.Content>
          </Tabs.Root>
        )}
      </DialogBox>
    </Dialog.Root>
  )
}
