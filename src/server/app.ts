import compression from 'compression'
import cookieParser from 'cookie-parser'
import express, { type Express, type Request, type RequestHandler, Router } from 'express'
import { rateLimit } from 'express-rate-limit'
import helmet from 'helmet'
import type { Logger } from 'pino'
import '../contract/wording.ts'
import { PROBLEMS } from '../contract/problems.ts'
import { about } from '../contract/session.ts'
import { MINUTE } from '../core/instant.ts'
import { createAskers } from './access/asker.ts'
import { createPasskeys } from './access/passkeys.ts'
import { bindAccess } from './access/routes.ts'
import { createSessions, type Sessions } from './access/sessions.ts'
import { createSignIn } from './access/signIn.ts'
import { bindAnnouncements } from './announcements/routes.ts'
import type { Arrivals } from './arrivals.ts'
import { bindCalendar } from './calendar/routes.ts'
import { createCalm } from './calm.ts'
import type { Clock } from './clock.ts'
import type { Config } from './config.ts'
import { bindConveners } from './conveners/routes.ts'
import { bindCourses } from './courses/routes.ts'
import type { Db } from './db/open.ts'
import type { Disk } from './files/disk.ts'
import { groupAim, readsGroupFile } from './files/groupFiles.ts'
import { bindFiles, type FileParts } from './files/routes.ts'
import { type Aim, createUploads } from './files/uploads.ts'
import { reachGroup } from './groups/reach.ts'
import { bindGroups } from './groups/routes.ts'
import { health } from './health.ts'
import { fixedHeaders } from './http/fixedHeaders.ts'
import { inOrder } from './http/inOrder.ts'
import { logRequests } from './http/log.ts'
import { answerProblems, createRefuse, notFound, ProblemError } from './http/problem.ts'
import { noticeProxies } from './http/proxies.ts'
import { sameOrigin } from './http/sameOrigin.ts'
import { createServe, type Serve } from './http/serve.ts'
import { bindInvitations } from './invitations/routes.ts'
import { bindLedger } from './ledger/routes.ts'
import { bindLists } from './lists/routes.ts'
import { createHub, type Hub } from './live/hub.ts'
import { bindLive } from './live/routes.ts'
import { createAllowance } from './mail/allowance.ts'
import type { Mailer } from './mail/mailer.ts'
import { bindMarks } from './marks/routes.ts'
import { bindSecondReadings } from './marks/secondRoutes.ts'
import { bindMeetings } from './meetings/routes.ts'
import { bindNudges } from './nudges/routes.ts'
import { createVisits, type Visits } from './nudges/visits.ts'
import { bindPeople } from './people/routes.ts'
import { createPlanner, type Planner } from './plans/planner.ts'
import { bindPlans } from './plans/routes.ts'
import { bindPrograms } from './programs/routes.ts'
import { createPrograms } from './programs/tokens.ts'
import type { Rehearsals } from './rehearsals/rehearsals.ts'
import { bindRehearsal } from './rehearsals/routes.ts'
import { feedbackAim, feedbackFor, readsFeedback } from './remarks/aim.ts'
import { createPdfMaker } from './remarks/pdf/maker.ts'
import { bindRemarks } from './remarks/routes.ts'
import { bindRequests } from './requests/routes.ts'
import { bindRoster } from './roster/routes.ts'
import type { Person } from './roster/store.ts'
import { bindSeatings } from './seats/byHandRoutes.ts'
import { type Claims, createClaims } from './seats/claims.ts'
import { bindSeats } from './seats/routes.ts'
import { createAddressOf } from './sheets/address.ts'
import { createEditing } from './sheets/editing.ts'
import { bindSheets } from './sheets/routes.ts'
import { bindTopics } from './sheets/topicRoutes.ts'
import type { Stores } from './stores.ts'
import { bindSwaps } from './swaps/routes.ts'
import { bindTalk } from './talk/routes.ts'
import { readsTaskFile, taskAim, workAim } from './tasks/fileAims.ts'
import { reachedTask } from './tasks/reached.ts'
import { bindTasks } from './tasks/routes.ts'
import { createUnitOfWork, type UnitOfWork } from './unitOfWork.ts'
import { BUILD_HEADER, buildIn, serveWeb } from './web.ts'
import { bindWishes } from './wishes/routes.ts'

export interface AppParts {
  db: Db
  stores: Stores
  config: Config
  clock: Clock
  log: Logger
  mailer: Mailer
  disk: Disk
  arrivals: Arrivals
  /** Folder of the built pages, or null to serve the API alone. */
  web: string | null
  /** Routes that only the demo has. */
  demo?: (serve: Serve, sessions: Sessions) => void
  /** Whoever asks is this person: for a rehearsal, which nobody else reaches. */
  as?: Person
  /** Rehearsals that can be begun; a rehearsal itself has none. */
  rehearsals?: Rehearsals
}

export interface App {
  express: Express
  hub: Hub
  unit: UnitOfWork
  claims: Claims
  visits: Visits
  /** Says why of seats by wishes; to be closed at the end. */
  reasoner: Planner
}

/** What is asked of the API; whatever else is asked for is a page or one of its files, and passes no route of it. */
const API = /^\/api(\/|$)/i

/** Where one signs in and out, and sees where else one did. */
const SIGN_IN_PATHS = ['/api/access', '/api/me/sign-ins', '/api/me/sessions', '/api/me/passkeys']

/** Sign-in requests that one network address may make in ten minutes: a whole lecture hall may share one. */
const SIGN_INS = 1_500

/** Puts the server together. Listens to nothing yet. */
export function createApp(parts: AppParts): App {
  const { db, stores, config, clock, log, mailer } = parts
  const hub = createHub(stores)
  const unit = createUnitOfWork({
    db,
    stores,
    mailer,
    hub,
    calm: createCalm(log),
    whenQuiet: parts.arrivals.whenQuiet,
    origin: config.origin,
  })
  const visits = createVisits(db, stores.nudges)
  const claims = createClaims({ db, clock, log, ...stores, unit, whenQuiet: parts.arrivals.whenQuiet })
  const mayAddCourses = (email: string) => config.instructors.includes(email)
  const askers = createAskers(!parts.demo)
  const known = createSessions(stores.access, stores.roster, askers, clock, !parts.demo)
  const { as, rehearsals } = parts
  const sessions: Sessions = as ? { ...known, personOf: () => as } : known

  const app = express()
  app.set('trust proxy', config.proxies)
  app.disable('x-powered-by')
  // Nothing of the API is kept by browsers, so there is nothing to compare.
  app.set('etag', false)
  const build = parts.web === null ? null : buildIn(parts.web)
  const compress = compressed()
  const apiInOrder = inOrder([
    compress,
    fixedHeaders(helmet(apiHeaders(parts))),
    (_req, res, next) => {
      res.setHeader('Cache-Control', 'no-store')
      if (build !== null) res.setHeader(BUILD_HEADER, build)
      next()
    },
    sameOrigin(config.origin),
    cookieParser(),
  ])
  const pages = createPages(parts, compress, sessions)
  app.get('/healthz', health(db, mailer, clock))
  // What hundreds press at once passes as few layers as there can be: each is looked for and entered anew for every request.
  // So pages have a router of their own, and the routes of the API stand here.
  app.use(
    inOrder([
      ...logRequests(log),
      noticeProxies(config.proxies, log),
      (req, res, next) => (API.test(req.path) ? apiInOrder : pages)(req, res, next),
    ]),
  )
  const programs = createPrograms(stores.programs, clock)
  const refuse = createRefuse(log)
  const serve = createServe(app, { ...stores, sessions, programs, clock, mayAddCourses, refuse })
  // What hundreds press at once comes first: routes are tried in this order.
  bindSeats(serve, stores, claims, visits)
  bindLive(serve, hub, sessions)
  // Nobody signs in or out in a rehearsal, or asks who else did.
  if (as)
    app.use(SIGN_IN_PATHS, () => {
      throw notFound()
    })
  app.use(
    '/api/access',
    rateLimit({ windowMs: 10 * MINUTE, limit: SIGN_INS, legacyHeaders: false, handler: tooMany }),
  )
  serve(about, ({ now }) => ({ demo: parts.demo !== undefined, now }))
  bindAccess(serve, {
    stores,
    sessions,
    askers,
    signing: createSignIn({ db, stores, mailer, clock, log, mayAddCourses }),
    passkeys: createPasskeys(stores.passkeys, stores.roster, config.origin, clock),
    origin: config.origin,
    mayAddCourses,
    signedOut: (session) => {
      hub.endSession(session)
      rehearsals?.endSession(session)
    },
  })
  bindCourses(serve, db, stores, unit)
  bindRoster(serve, stores, unit)
  bindLists(serve, stores, unit)
  bindPeople(serve, stores)
  bindPrograms(serve, stores)
  const edited = createEditing(unit, stores)
  const addressOf = createAddressOf(config.origin)
  bindSheets(serve, db, stores, hub, edited, mailer, addressOf, parts.disk)
  bindTopics(serve, stores, edited)
  const allowance = createAllowance()
  bindAnnouncements(serve, stores, unit, mailer, addressOf)
  bindRequests(serve, stores, unit, claims, mailer)
  bindInvitations(serve, stores, unit, claims, mailer, allowance, config.origin)
  bindCalendar(serve, stores)
  bindGroups(serve, stores, unit, mailer, addressOf)
  bindMeetings(serve, stores, unit)
  bindConveners(serve, stores, unit, mailer, allowance)
  bindTalk(serve, stores, unit, mailer, addressOf)
  bindFiles(serve, createFileParts(parts, unit))
  bindTasks(serve, stores, unit, mailer, allowance, parts.disk)
  bindMarks(serve, stores, unit, mailer)
  bindSecondReadings(serve, stores, unit, mailer)
  bindRemarks(serve, stores, unit, parts.disk, createPdfMaker(log))
  if (rehearsals) bindRehearsal(serve, stores, rehearsals, known)
  bindSeatings(serve, stores, unit, mailer, addressOf)
  bindPlans(serve, stores, unit, mailer, addressOf)
  const reasoner = createPlanner()
  bindWishes(serve, stores, unit, reasoner)
  bindSwaps(serve, { stores, mailer, origin: config.origin }, unit)
  bindLedger(serve, stores, unit, mailer, addressOf)
  bindNudges(serve, stores, unit, mailer, addressOf)
  parts.demo?.(serve, sessions)
  app.get('/api/problems/:code', ({ params: { code } }, res) => {
    if (!Object.hasOwn(PROBLEMS, code)) throw notFound()
    res.json({ code, ...PROBLEMS[code as keyof typeof PROBLEMS] })
  })
  app.use('/api', () => {
    throw notFound()
  })
  app.use(answerProblems(refuse))
  return { express: app, hub, unit, claims, visits, reasoner }
}

/** Whatever is no request of the API: pages and their files, and the rehearsals, each of which has an API of its own. */
function createPages(parts: AppParts, compress: RequestHandler, sessions: Sessions): Router {
  const pages = Router()
  const pass = parts.rehearsals?.pass(sessions)
  if (pass)
    pages.use('/rehearsal/:code', cookieParser(), (req, res, next) =>
      API.test(req.path) ? pass(req, res, next) : next(),
    )
  pages.use(compress)
  const pageHeaders = (ancestors: string) =>
    fixedHeaders(
      helmet({
        contentSecurityPolicy: { directives: { ...policy(parts), frameAncestors: [ancestors] } },
        strictTransportSecurity: !parts.demo,
      }),
    )
  // A rehearsal stands in a frame of ours; nothing else stands in any.
  const [alone, framed] = [pageHeaders("'none'"), pageHeaders("'self'")]
  pages.use((req, res, next) => (req.path.startsWith('/rehearsal/') ? framed : alone)(req, res, next))
  if (parts.web !== null) serveWeb(pages, parts.web)
  return pages
}

/** What the routes of files need: what uploads are for, and who reads what. Each room says that for its own. */
function createFileParts({ stores, disk }: AppParts, unit: UnitOfWork): FileParts {
  const rules = {
    group: groupAim(stores),
    work: workAim(stores),
    task: taskAim(stores),
    feedback: feedbackAim(stores),
  }
  return {
    disk,
    files: stores.files,
    uploads: createUploads({ unit, disk, files: stores.files, rules }),
    mayRead: [readsGroupFile(stores), readsTaskFile(stores), readsFeedback(stores)],
    aimOf({ aim, group, task, owner: whose }, by): Aim {
      if (aim === 'group')
        return { kind: 'group', group: reachGroup(by.sheet, by.enrolment, group ?? '', stores).group.id }
      if (aim === 'task') {
        const known = stores.tasks.byCode(by.sheet.id, task ?? '')
        if (!known || by.enrolment.role !== 'instructor') throw notFound()
        return { kind: 'task', task: known.id }
      }
      if (aim === 'feedback') return feedbackFor(by, task ?? '', whose ?? '', stores)
      if (by.enrolment.role !== 'student') throw notFound()
      const { task: known, owner } = reachedTask(by, task ?? '', group, stores)
      return { kind: 'work', task: known.id, group: owner.group_id, student: owner.student_id }
    },
  }
}

/** Compresses what is read: views and pages. What students press is answered in a few bytes and goes as it is. */
function compressed(): RequestHandler {
  const compress = compression()
  const asItIs = ({ method, path }: Request) => method === 'POST' || path.endsWith('/live')
  return (req, res, next) => (asItIs(req) ? next() : compress(req, res, next))
}

function tooMany(): never {
  throw new ProblemError('too-many-tries', 'Too many sign-ins came from your network. Wait ten minutes.')
}

/** What answers of the API carry: they are data, never a page, so nothing in them may run, be framed or be guessed at. */
function apiHeaders({ demo }: AppParts): Parameters<typeof helmet>[0] {
  return {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: { defaultSrc: ["'none'"], frameAncestors: ["'none'"] },
    },
    strictTransportSecurity: !demo,
    originAgentCluster: false,
    xDnsPrefetchControl: false,
    xDownloadOptions: false,
    xPermittedCrossDomainPolicies: false,
    xXssProtection: false,
  }
}

function policy({ config }: AppParts): Record<string, string[] | null> {
  return {
    defaultSrc: ["'self'"],
    // The reader of PDFs unpacks scanned pictures with WebAssembly of ours; scripts stay as strict as they were.
    scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
    styleSrc: ["'self'", "'unsafe-inline'"],
    fontSrc: ["'self'"],
    imgSrc: ["'self'", 'data:'],
    objectSrc: ["'none'"],
    upgradeInsecureRequests: config.origin?.startsWith('https:') ? [] : null,
  }
}
