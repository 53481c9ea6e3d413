import type { Instant } from '../core/instant.ts'
import type { Calm } from './calm.ts'
import type { Course } from './courses/store.ts'
import { createBatches } from './db/batches.ts'
import type { Db } from './db/open.ts'
import { reachedBy } from './groups/reach.ts'
import { notFound, ProblemError } from './http/problem.ts'
import type { Hub } from './live/hub.ts'
import type { Mailer } from './mail/mailer.ts'
import { mailFromLines, type SeatedFromLine, serveLines } from './seats/lines.ts'
import type { Sheet } from './sheets/store.ts'
import type { Stores } from './stores.ts'
import { serveSwaps } from './swaps/serve.ts'

/** Collects, while a change is made, whom it is told to once it is on disk. */
export interface Telling {
  /** Says that a group's page changed, for those who reach the group. */
  page(groupId: number): void
}

export interface UnitParts {
  db: Db
  stores: Stores
  mailer: Mailer
  hub: Hub
  calm: Calm
  /** Does something in one of the next rounds of the event loop. */
  whenQuiet?: (work: () => void) => void
  /** The address under which the pages are, for mails; left out where none is set. */
  origin?: string | null
}

export type UnitOfWork = ReturnType<typeof createUnitOfWork>

/**
 * Makes the one way in which anything of a sheet, a course or a roster is changed. A change runs in one immediate
 * transaction, over the sheet as it then stands, with its ledger entries and its mail; it ends in serving the waiting
 * lines. What is archived is refused. Open pages are told after the commit, and of nothing that was taken back.
 */
export function createUnitOfWork({ db, stores, mailer, hub, calm, whenQuiet, origin = null }: UnitParts) {
  /**
   * What every change of seats ends in, within its transaction: seats that came free go to those who wait, and they
   * are told by mail. Gives them.
   */
  const serve = (sheetId: number, now: Instant): SeatedFromLine[] => {
    const seated = serveLines(sheetId, now, stores)
    if (seated.length > 0) mailsOf(sheetId, () => mailFromLines(seated, stores, mailer))
    return seated
  }
  /** What every change of a sheet but a claim ends in besides: swaps of seats are brought up to date. */
  const tail = (sheetId: number, now: Instant): void => {
    serve(sheetId, now)
    mailsOf(sheetId, () => serveSwaps(sheetId, now, { stores, mailer, origin }))
  }
  /** Does something and notes that the mails it hands over are of a sheet: within a transaction nobody else adds any. */
  function mailsOf<Answer>(sheetId: number, work: () => Answer): Answer {
    const before = stores.mail.lastId()
    const answer = work()
    if (stores.mail.lastId() > before) stores.mail.assign(sheetId, before)
    return answer
  }
  /** Tells open pages of sheets that they changed. Call after the commit. */
  const tell = (sheetIds: Iterable<number>): void => {
    for (const id of sheetIds) hub.touched(id)
  }
  const tellPage = (sheetId: number, groupId: number): void => {
    const sheet = stores.sheets.byId(sheetId)
    const group = stores.sheets.groupById(groupId)
    if (!sheet || !group) return
    const { members, tutors, instructors } = reachedBy(sheet, groupId, stores)
    hub.place(sheetId, group.code, new Set([...members, ...tutors, ...instructors].map(({ id }) => id)))
  }

  /** A change of one sheet within a transaction: what is refused, the work, its mail, and what it ends in. */
  function within<Answer>(
    id: number,
    now: Instant,
    work: (sheet: Sheet) => Answer,
    putAway?: 'allowed',
  ): Answer {
    const sheet = stores.sheets.byId(id)
    if (!sheet) throw notFound()
    if (sheet.archived_at !== null && putAway !== 'allowed') {
      throw new ProblemError('sheet-archived', 'The sheet is archived. It can be read, and not changed.')
    }
    return mailsOf(id, () => {
      const done = work(sheet)
      tail(id, now)
      return done
    })
  }
  const soon = createBatches({
    db,
    calm,
    one: ({ id, now, work }: { id: number; now: Instant; work: (sheet: Sheet) => unknown }) =>
      within(id, now, work),
    after: (jobs) => tell(new Set(jobs.map(({ id }) => id))),
    words: 'a change of a sheet broke',
    ...(whenQuiet && { whenQuiet }),
  })

  /**
   * Changes one sheet, or anything that hangs on it.
   * @param work makes the change of the sheet as it stands in the transaction; what it throws takes all of it back
   * @param putAway whether the change is meant for a sheet that may be archived
   * @throws ProblemError `sheet-archived`
   */
  function onSheet<Answer>(
    { id }: Pick<Sheet, 'id'>,
    now: Instant,
    work: (sheet: Sheet, telling: Telling) => Answer,
    putAway?: 'allowed',
  ): Answer {
    const pages = new Set<number>()
    const telling = { page: (groupId: number) => void pages.add(groupId) }
    const answer = db.transaction(() => within(id, now, (sheet) => work(sheet, telling), putAway)).immediate()
    tell([id])
    for (const groupId of pages) tellPage(id, groupId)
    return answer
  }

  return {
    serve,
    tell,
    onSheet,
    /**
     * The same for what hundreds do at one moment: those that come together share a transaction and its flush to the disk,
     * each undone alone where it breaks. The answer comes once it is on disk.
     * @throws ProblemError `sheet-archived`, or `too-busy` where too many wait
     */
    onSheetSoon: <Answer>(
      { id }: Pick<Sheet, 'id'>,
      now: Instant,
      work: (sheet: Sheet) => Answer,
    ): Promise<Answer> => soon.submit({ id, now, work }) as Promise<Answer>,
    /**
     * Changes one sheet by the clock, archived or not: what fails is logged, tried again by whoever called, and in no
     * other's way.
     * @param words what could not be done
     */
    apart(sheet: Pick<Sheet, 'id'>, now: Instant, work: () => void, words: string): void {
      try {
        onSheet(sheet, now, work, 'allowed')
      } catch (error) {
        calm(error, words, { sheet: sheet.id })
      }
    },
    /**
     * Changes a course or its roster: everything that its sheets show may have changed, so lines are served on all of
     * them, and every open page fetches its view anew.
     * @param putAway whether the change is meant for a course that may be archived
     * @throws ProblemError `course-archived`
     */
    onCourse<Answer>(
      { id }: Pick<Course, 'id'>,
      now: Instant,
      work: () => Answer,
      putAway?: 'allowed',
    ): Answer {
      const answer = db
        .transaction(() => {
          const course = stores.courses.byId(id)
          if (course?.archived_at && putAway !== 'allowed')
            throw new ProblemError(
              'course-archived',
              'The course is archived. It can be read, and not changed.',
            )
          const done = work()
          for (const sheet of stores.sheets.ofCourse(id)) tail(sheet.id, now)
          return done
        })
        .immediate()
      const sheetIds = stores.sheets.ofCourse(id).map((sheet) => sheet.id)
      tell(sheetIds)
      hub.refresh(sheetIds)
      return answer
    },
  }
}
