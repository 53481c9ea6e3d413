import { lazy, Suspense } from 'react'
import { createBrowserRouter, Outlet, RouterProvider } from 'react-router'
import { Toaster } from 'sonner'
import { SWRConfig } from 'swr'
import { SignedIn } from './access/me.tsx'
import { Loading } from './kit/Waiting.tsx'
import { Lost } from './Lost.tsx'

// One chunk per kind of visitor: a student's phone never loads the instructor's pages.
const SignInPage = lazy(async () => ({ default: (await import('./access/SignInPage.tsx')).SignInPage }))
const DoorPage = lazy(async () => ({ default: (await import('./access/DoorPage.tsx')).DoorPage }))
const OutboxPage = lazy(async () => ({ default: (await import('./access/OutboxPage.tsx')).OutboxPage }))
const LinkPage = lazy(async () => ({ default: (await import('./access/LinkPage.tsx')).LinkPage }))
const HomePage = lazy(async () => ({ default: (await import('./HomePage.tsx')).HomePage }))
const StudentSheetPage = lazy(async () => ({ default: (await import('./student/SheetPage.tsx')).SheetPage }))
const TasksPage = lazy(async () => ({ default: (await import('./student/TasksPage.tsx')).TasksPage }))
const NewCoursePage = lazy(async () => ({
  default: (await import('./instructor/courses/NewCoursePage.tsx')).NewCoursePage,
}))
const RosterPage = lazy(async () => ({
  default: (await import('./instructor/roster/RosterPage.tsx')).RosterPage,
}))
const ComposePage = lazy(async () => ({
  default: (await import('./instructor/compose/ComposePage.tsx')).ComposePage,
}))
const NoticePage = lazy(async () => ({ default: (await import('./instructor/NoticePage.tsx')).NoticePage }))
const RehearsalPage = lazy(async () => ({
  default: (await import('./instructor/RehearsalPage.tsx')).RehearsalPage,
}))
const RunPage = lazy(async () => ({ default: (await import('./instructor/run/RunPage.tsx')).RunPage }))

const GroupPage = lazy(async () => ({ default: (await import('./group/GroupPage.tsx')).GroupPage }))
const GroupsPage = lazy(async () => ({
  default: (await import('./instructor/groups/GroupsPage.tsx')).GroupsPage,
}))
const WorkPage = lazy(async () => ({ default: (await import('./instructor/work/WorkPage.tsx')).WorkPage }))
const DeskPage = lazy(async () => ({ default: (await import('./instructor/work/DeskPage.tsx')).DeskPage }))
const SettlePage = lazy(async () => ({
  default: (await import('./instructor/settle/SettlePage.tsx')).SettlePage,
}))
const LedgerPage = lazy(async () => ({
  default: (await import('./instructor/ledger/LedgerPage.tsx')).LedgerPage,
}))
const DoorsPage = lazy(async () => ({
  default: (await import('./instructor/ledger/DoorsPage.tsx')).DoorsPage,
}))

const router = createBrowserRouter([
  {
    element: <Outlet />,
    errorElement: <Lost />,
    children: [
      { path: '/sign-in', element: <SignInPage /> },
      { path: '/door', element: <DoorPage /> },
      { path: '/outbox', element: <OutboxPage /> },
      {
        element: (
          <SignedIn>
            <Outlet />
          </SignedIn>
        ),
        children: [
          { path: '/', element: <HomePage /> },
          { path: '/s/:link', element: <LinkPage /> },
          { path: '/sheets/:sheet', element: <StudentSheetPage /> },
          { path: '/sheets/:sheet/tasks', element: <TasksPage /> },
          { path: '/sheets/:sheet/compose', element: <ComposePage /> },
          { path: '/sheets/:sheet/run', element: <RunPage /> },
          { path: '/sheets/:sheet/settle', element: <SettlePage /> },
          { path: '/sheets/:sheet/work', element: <WorkPage /> },
          { path: '/sheets/:sheet/work/groups', element: <GroupsPage /> },
          { path: '/sheets/:sheet/groups/:group', element: <GroupPage /> },
          { path: '/sheets/:sheet/tasks/:task/desk', element: <DeskPage /> },
          { path: '/sheets/:sheet/ledger', element: <LedgerPage /> },
          { path: '/sheets/:sheet/doors', element: <DoorsPage /> },
          { path: '/sheets/:sheet/rehearsal', element: <RehearsalPage /> },
          { path: '/sheets/:sheet/notice', element: <NoticePage /> },
          { path: '/courses/new', element: <NewCoursePage /> },
          { path: '/courses/:course/roster', element: <RosterPage /> },
        ],
      },
      { path: '*', element: <Lost /> },
    ],
  },
])

export function App() {
  return (
    <SWRConfig value={{ keepPreviousData: false, dedupingInterval: 500 }}>
      <Suspense fallback={<Loading what="the page" />}>
        <RouterProvider router={router} />
      </Suspense>
      <Toaster
        position="top-center"
        offset={60}
        mobileOffset={64}
        toastOptions={{
          style: {
            background: 'var(--color-ink)',
            color: 'var(--color-canvas)',
            border: '1px solid var(--color-ink)',
            fontFamily: 'var(--font-sans)',
            fontSize: '0.9375rem',
            borderRadius: 'var(--radius-card)',
          },
          actionButtonStyle: {
            background: 'var(--color-canvas)',
            color: 'var(--color-ink)',
            minHeight: '2.75rem',
            padding: '0 0.875rem',
            fontWeight: 600,
          },
        }}
      />
    </SWRConfig>
  )
}
