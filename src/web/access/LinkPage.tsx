import { Navigate, useParams } from 'react-router'
import { followLink } from '../../contract/sheets.ts'
import { useAnswer } from '../data/answers.ts'
import { Frame } from '../kit/Frame.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'

/** Where a sheet's short address lands: students on the sheet, staff where they watch it. */
export function LinkPage() {
  const { link = '' } = useParams()
  const { data, error, mutate } = useAnswer(followLink, { link }, { shouldRetryOnError: false })
  if (data) {
    return (
      <Navigate
        replace
        to={data.role === 'student' ? `/sheets/${data.sheet}` : `/sheets/${data.sheet}/run`}
      />
    )
  }
  return (
    <Frame title="">
      {error ? <Trouble fault={error} retry={() => void mutate()} /> : <Loading what="the sheet" />}
    </Frame>
  )
}
