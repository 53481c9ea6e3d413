import { useEffect } from 'react'
import { useSearchParams } from 'react-router'
import type { SettleView } from '../../../contract/plans.ts'
import { MENDINGS, mendingsFor, planOf } from '../../../core/plan/mend.ts'
import { toast } from '../../kit/toast.ts'
import type { Opened } from './Compared.tsx'
import type { Choices } from './input.ts'
import { planNaming } from './naming.ts'

/** Opens the plan that an address asks for: a group that fell under its floor merged with another, or filled up. */
export function useMending(
  view: SettleView,
  choices: Choices,
  key: () => string,
  open: (plan: Opened) => void,
): void {
  const [asked, setAsked] = useSearchParams()
  const [small, by] = [asked.get('mend'), asked.get('by')]
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each address
  useEffect(() => {
    if (small === null) return
    setAsked({}, { replace: true })
    const kind = MENDINGS.find((one) => one === by)
    const mending = mendingsFor(view.basis, small).find((one) => one.kind === kind)
    if (!mending || !view.mayEdit) {
      toast.error('That cannot be done any more: the groups have changed since.', {})
      return
    }
    const { moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes } = planOf(
      view.basis,
      mending,
    )
    const { method, lotNumber, floorsFirst, mayDissolve } = choices
    const settings = {
      method,
      lotNumber,
      floorsFirst,
      mayDissolve,
      release: 'none' as const,
      made: null,
      wishes: null,
    }
    const { group } = planNaming(view, null)
    const other = moves[0]?.to ?? null
    open({
      key: key(),
      proposed: true,
      title:
        mending.kind === 'merge'
          ? `Merge ${group(small, true)} into ${group(other ?? small, true)}`
          : `Fill up ${group(small, true)}`,
      content: { settings, moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes },
    })
  }, [small, by])
}
