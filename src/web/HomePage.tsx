import { useMe } from './access/me.tsx'
import { Frame } from './kit/Frame.tsx'
import { part } from './kit/part.tsx'
import { Loading } from './kit/Waiting.tsx'

const CoursesPage = part(
  async () => (await import('./instructor/courses/CoursesPage.tsx')).CoursesPage,
  <Loading what="your courses" />,
)
const StudentHomePage = part(
  async () => (await import('./student/HomePage.tsx')).HomePage,
  <Loading what="your sheets" />,
)

/** The first page: for students what still needs a group, for staff their courses. */
export function HomePage() {
  const { enrolments, mayAddCourses, email } = useMe()
  if (mayAddCourses || enrolments.some(({ role }) => role !== 'student')) return <CoursesPage />
  if (enrolments.length > 0) return <StudentHomePage />
  return (
    <Frame title="">
      <div className="mx-auto my-12 flex max-w-md flex-col gap-2 px-5">
        <h1 className="text-xl">You are on no roster</h1>
        <p className="text-soft">
          You are signed in as {email}. No course lists this address now. If you expect one, ask its
          instructor to add you, or sign in with the address that the course has of you.
        </p>
      </div>
    </Frame>
  )
}
