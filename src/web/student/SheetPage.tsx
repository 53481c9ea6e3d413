import { Navigate, useParams } from 'react-router'
import { Frame } from '../kit/Frame.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'
import { StudentSheetView } from './StudentSheetView.tsx'
import { useStudentSheet } from './useStudentSheet.ts'

/** A sheet as a student chooses from it. */
export function SheetPage() {
  const { sheet: code = '' } = useParams()
  const { source, error, refetch } = useStudentSheet(code)
  if (error?.code === 'not-allowed') return <Navigate replace to={`/sheets/${code}/run`} />
  // A sheet that was taken away while the page was open is gone, whatever was shown before.
  const gone = error?.problem.status === 404
  const view = gone ? undefined : source?.view
  return (
    <Frame
      title={view?.title ?? ''}
      crumbs={view ? [{ label: view.course.title, to: '/' }, { label: view.title }] : []}
    >
      {source && !gone ? (
        <StudentSheetView source={source} />
      ) : error ? (
        <Trouble fault={error} retry={refetch} />
      ) : (
        <Loading what="the sheet" />
      )}
    </Frame>
  )
}
