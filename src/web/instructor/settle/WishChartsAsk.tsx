import { Dialog } from 'radix-ui'
import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { Button } from '../../kit/Button.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { part } from '../../kit/part.tsx'
import { Loading } from '../../kit/Waiting.tsx'

// The charts are a chunk of their own, fetched when they are wanted.
const WishCharts = part(
  async () => (await import('./WishCharts.tsx')).WishCharts,
  <Loading what="the charts" />,
)

/** Shows which wishes a plan reaches, and the demand, as charts. */
export function WishChartsAsk({ view, content }: { view: SettleView; content: PlanContent }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button size="small">Wishes per section</Button>
      </Dialog.Trigger>
      <DialogBox title="Wishes reached, and demand" width="large">
        <WishCharts view={view} content={content} />
      </DialogBox>
    </Dialog.Root>
  )
}
