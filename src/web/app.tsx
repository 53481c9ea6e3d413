import type { ComponentType } from 'react'
import { createBrowserRouter, Outlet, type RouteObject, RouterProvider, useParams } from 'react-router'
import { mutate, preload, SWRConfig } from 'swr'
import { me } from '../contract/session.ts'
import { SignedIn } from './access/me.tsx'
import { keyOf } from './data/answers.ts'
import { BASE, REHEARSED } from './data/base.ts'
import { Fault } from './data/call.ts'
import { loaded } from './data/loaded.ts'
import { quiet } from './data/quiet.ts'
import { keptCall } from './data/useKeptAnswer.ts'
import { Button } from './kit/Button.tsx'
import { BarEnd, StaffFind } from './kit/Frame.tsx'
import { part } from './kit/part.tsx'
import { onPlaceShown, useShowing } from './kit/toast.ts'
import { Loading } from './kit/Waiting.tsx'
import { Broke, Lost } from './Lost.tsx'
import { Root } from './Root.tsx'

// The menu is wanted seldom and never first, so it comes when the page stands.
const PersonMenu = part(
  async () => (await quiet().then(() => import('./access/PersonMenu.tsx'))).PersonMenu,
  <span className="size-9 rounded-field bg-seat max-sm:size-11" />,
)

// Students never load what staff find things with.
const FindBox = part(async () => (await import('./instructor/FindBox.tsx')).FindBox)

/** A page begins anew for each thing that it is about: nothing of one sheet is ever laid over another. */
function ofItsAddress(Page: ComponentType): ComponentType {
  return function Addressed() {
    const about = Object.values(useParams()).join('/')
    return <Page key={about} />
  }
}

/**
 * One page: its address, and its code, which only those load who go there. What breaks in it, or does not arrive,
 * stays in it; the route around it catches that, as one whose code is missing cannot show anything itself.
 */
function page(path: string, load: () => Promise<ComponentType>): RouteObject {
  return {
    errorElement: <Broke />,
    children: [{ path, lazy: async () => ({ Component: ofItsAddress(await loaded(load)) }) }],
  }
}

// One chunk per kind of visitor: a student's phone never loads the instructor's pages.
const router = createBrowserRouter(
  [
    {
      element: <Root />,
      errorElement: <Broke />,
      hydrateFallbackElement: <Loading what="the page" />,
      children: [
        page('/sign-in', async () => (await import('./access/SignInPage.tsx')).SignInPage),
        page('/enter', async () => (await import('./access/EnterPage.tsx')).EnterPage),
        page('/door', async () => (await import('./access/DoorPage.tsx')).DoorPage),
        page('/outbox', async () => (await import('./access/OutboxPage.tsx')).OutboxPage),
        {
          element: (
            <SignedIn>
              <Outlet />
            </SignedIn>
          ),
          children: [
            page('/sign-ins', async () => (await import('./access/SignInsPage.tsx')).SignInsPage),
            page('/', async () => (await import('./HomePage.tsx')).HomePage),
            page('/s/:link', async () => (await import('./access/LinkPage.tsx')).LinkPage),
            page('/sheets/:sheet', async () => (await import('./student/SheetPage.tsx')).SheetPage),
            page('/sheets/:sheet/tasks', async () => (await import('./student/TasksPage.tsx')).TasksPage),
            page(
              '/sheets/:sheet/tasks/:task/remarks/:owner',
              async () => (await import('./student/RemarksPage.tsx')).RemarksPage,
            ),
            page(
              '/sheets/:sheet/compose',
              async () => (await import('./instructor/compose/ComposePage.tsx')).ComposePage,
            ),
            page('/sheets/:sheet/run', async () => (await import('./instructor/run/RunPage.tsx')).RunPage),
            page(
              '/sheets/:sheet/settle',
              async () => (await import('./instructor/settle/SettlePage.tsx')).SettlePage,
            ),
            page(
              '/sheets/:sheet/work',
              async () => (await import('./instructor/work/WorkPage.tsx')).WorkPage,
            ),
            page(
              '/sheets/:sheet/work/groups',
              async () => (await import('./instructor/groups/GroupsPage.tsx')).GroupsPage,
            ),
            page(
              '/sheets/:sheet/groups/:group',
              async () => (await import('./group/GroupPage.tsx')).GroupPage,
            ),
            page(
              '/sheets/:sheet/tasks/:task/second',
              async () => (await import('./instructor/work/DeskPage.tsx')).SecondDeskPage,
            ),
            page(
              '/sheets/:sheet/tasks/:task/desk',
              async () => (await import('./instructor/work/DeskPage.tsx')).DeskPage,
            ),
            page(
              '/sheets/:sheet/ledger',
              async () => (await import('./instructor/ledger/LedgerPage.tsx')).LedgerPage,
            ),
            page(
              '/sheets/:sheet/doors',
              async () => (await import('./instructor/ledger/DoorsPage.tsx')).DoorsPage,
            ),
            page(
              '/sheets/:sheet/rehearsal',
              async () => (await import('./instructor/RehearsalPage.tsx')).RehearsalPage,
            ),
            page(
              '/sheets/:sheet/notice',
              async () => (await import('./instructor/NoticePage.tsx')).NoticePage,
            ),
            page(
              '/courses/new',
              async () => (await import('./instructor/courses/NewCoursePage.tsx')).NewCoursePage,
            ),
            page(
              '/courses/:course/sheets/new',
              async () => (await import('./instructor/newSheet/NewSheetPage.tsx')).NewSheetPage,
            ),
            page(
              '/courses/:course',
              async () => (await import('./instructor/courses/CoursePage.tsx')).CoursePage,
            ),
            page(
              '/courses/:course/people/:person',
              async () => (await import('./instructor/person/PersonPage.tsx')).PersonPage,
            ),
            page(
              '/courses/:course/programs',
              async () => (await import('./instructor/programs/ProgramsPage.tsx')).ProgramsPage,
            ),
            page(
              '/programs',
              async () => (await import('./instructor/programs/DescriptionPage.tsx')).DescriptionPage,
            ),
            page(
              '/courses/:course/roster',
              async () => (await import('./instructor/roster/RosterPage.tsx')).RosterPage,
            ),
          ],
        },
        { path: '*', element: <Lost /> },
      ],
    },
  ],
  { basename: BASE || '/' },
)

// Who is signed in is asked while the code of the page is on its way.
if (!/^\/(sign-in|enter|door|outbox)$/.test(location.pathname))
  void preload(keyOf(me, {}), () => keptCall(me, {})).catch(() => {})

/** An answer that says that nobody is signed in leads every open page to signing in. */
function lookWhoIsSignedIn(error: unknown, key: string): void {
  const self = keyOf(me, {})
  if (key !== self && error instanceof Fault && error.problem.status === 401) void mutate(self)
}

/** What is said in passing: in the place for messages, or plainly where its code could not be had. */
function Said() {
  const { Place, plain } = useShowing()
  return (
    <>
      {Place && <Place onShown={onPlaceShown} />}
      <div role="status" className="pointer-events-none fixed inset-x-0 top-16 z-50 flex justify-center px-4">
        {plain && (
          <p className="pointer-events-auto flex items-center gap-3 rounded-card bg-ink px-4 py-2 text-canvas">
            {plain.words}
            {plain.action && (
              <Button size="small" onClick={plain.action.onClick}>
                {plain.action.label}
              </Button>
            )}
          </p>
        )}
      </div>
    </>
  )
}

export function App() {
  return (
    <SWRConfig value={{ keepPreviousData: false, dedupingInterval: 500, onError: lookWhoIsSignedIn }}>
      {/* In a rehearsal nobody signs out, or in. */}
      <BarEnd value={REHEARSED ? null : <PersonMenu />}>
        <StaffFind value={FindBox}>
          <RouterProvider router={router} />
        </StaffFind>
      </BarEnd>
      <Said />
    </SWRConfig>
  )
}
