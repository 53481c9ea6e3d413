import { useNavigate } from 'react-router'
import { useSWRConfig } from 'swr'
import { type Me, me } from '../../contract/session.ts'
import { keyOf } from '../data/answers.ts'
import { pagesOf } from '../data/useDraft.ts'

/** What happens once somebody was let in: nothing of whoever was there before is shown, and the page they came for is. */
export function useLetIn() {
  const navigate = useNavigate()
  const { mutate } = useSWRConfig()
  return async (person: Me, next: string): Promise<void> => {
    pagesOf(person.email)
    await mutate(() => true, undefined, { revalidate: false })
    await mutate(keyOf(me, {}), person, { revalidate: false })
    navigate(next, { replace: true })
  }
}
