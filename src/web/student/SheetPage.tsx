import { useParams } from 'react-router'
import { Awaited } from '../kit/Awaited.tsx'
import { Frame } from '../kit/Frame.tsx'
import { StudentSheetView } from './StudentSheetView.tsx'
import { useStudentSheet } from './useStudentSheet.ts'

/** A sheet as a student chooses from it. */
export function SheetPage() {
  const { sheet: code = '' } = useParams()
  const { source, error, refetch } = useStudentSheet(code)
  return (
    <Awaited
      of={{ data: source ?? undefined, error, mutate: refetch }}
      what="the sheet"
      elsewhere={`/sheets/${code}/run`}
    >
      {(shown) => (
        <Frame
          title={shown.view.title}
          crumbs={[{ label: shown.view.course.title, to: '/' }, { label: shown.view.title }]}
        >
          <StudentSheetView source={shown} />
        </Frame>
      )}
    </Awaited>
  )
}
