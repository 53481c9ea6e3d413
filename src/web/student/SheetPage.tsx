import { useParams } from 'react-router'
import { preload } from 'swr'
import { studentSheet } from '../../contract/seats.ts'
import { keyOf } from '../data/answers.ts'
import { call } from '../data/call.ts'
import { Awaited } from '../kit/Awaited.tsx'
import { Frame } from '../kit/Frame.tsx'
import { part } from '../kit/part.tsx'
import { Loading } from '../kit/Waiting.tsx'
import { StudentSheetView } from './StudentSheetView.tsx'
import { useStudentSheet } from './useStudentSheet.ts'

// Opened at its address, the sheet is asked for while it is asked who is signed in.
const opened = /^\/sheets\/([\w-]+)$/.exec(location.pathname)?.[1]
if (opened)
  void preload(keyOf(studentSheet, { sheet: opened }), () => call(studentSheet, { sheet: opened })).catch(
    () => {},
  )

// Whoever takes seats as they come has nothing to rank.
const WishedSheet = part(
  async () => (await import('./wishes/WishedSheet.tsx')).WishedSheet,
  <Loading what="the topics" />,
)

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
          {shown.view.rules.road === 'wished' ? (
            <WishedSheet source={shown} />
          ) : (
            <StudentSheetView source={shown} />
          )}
        </Frame>
      )}
    </Awaited>
  )
}
