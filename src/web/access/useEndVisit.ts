import { useNavigate } from 'react-router'
import { useSWRConfig } from 'swr'
import { forgetKept } from '../data/tabKept.ts'
import { drafts } from '../data/useDraft.ts'
import { forgetAnswers } from '../data/useKeptAnswer.ts'
import { endTurn } from '../data/whose.ts'

/** What happens once somebody has signed out: nothing of theirs stays in the tab, and what is on its way is not heard. */
export function useEndVisit(): () => Promise<void> {
  const navigate = useNavigate()
  const { mutate } = useSWRConfig()
  return async () => {
    endTurn()
    drafts.forget()
    forgetAnswers()
    forgetKept(sessionStorage, 'haplon.')
    await mutate(() => true, undefined, { revalidate: false })
    navigate('/sign-in')
  }
}
