import { Navigate, useParams } from 'react-router'
import { followLink } from '../../contract/sheets.ts'
import { useAnswer } from '../data/answers.ts'
import { Awaited } from '../kit/Awaited.tsx'

/** Where a sheet's short address lands: students on the sheet, staff where they watch it. */
export function LinkPage() {
  const { link = '' } = useParams()
  const answer = useAnswer(followLink, { link }, { shouldRetryOnError: false })
  return (
    <Awaited of={answer} what="the sheet">
      {({ role, sheet }) => (
        <Navigate replace to={role === 'student' ? `/sheets/${sheet}` : `/sheets/${sheet}/run`} />
      )}
    </Awaited>
  )
}
