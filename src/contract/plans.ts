import { array, boolean, mixed, number, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import type { PlanBasis } from '../core/plan/basis.ts'
import type { Gap } from '../core/plan/cost.ts'
import type {
  ByWishes,
  LeftReason,
  MixReport,
  MoveReason,
  PlanConflict,
  PlanFigures,
  PlanMethod,
  Release,
  WishReport,
} from '../core/plan/types.ts'
import { PLAN_METHODS } from '../core/plan/types.ts'
import { CHOICES, MOST_SEATS_EACH } from '../core/rules.ts'
import { type Priority, USUAL_ORDER } from '../core/wishes/rules.ts'
import type { WishAim } from '../core/wishes/types.ts'
import type { SectionView } from './courses.ts'
import { codes, title } from './fields.ts'
import { LARGE, plainRoute, route } from './route.ts'
import { MOST_SEATINGS } from './seatings.ts'
import type { SheetHead } from './sheets.ts'

/** Groups that a plan adds: a topic each, with a group in every section that needs it, or one for all sections. */
export interface MadeGroups {
  titles: string[]
  /** Whether each is for all sections together. */
  mixed: boolean
  /** The limit of each. */
  seats: number
  /** The topics that were added for them, by code, once it is applied. */
  topics?: string[]
}

/** How a plan was asked for. */
export interface PlanSettings {
  method: PlanMethod
  lotNumber: number
  floorsFirst: boolean
  mayDissolve: boolean
  release: Release
  made: MadeGroups | null
  /** With the method `wishes`: how; null else. */
  wishes: ByWishes | null
}

/** A plan as it is kept and applied: people and groups by their codes. Groups to be made are named by `madeKey`. */
export interface PlanContent {
  settings: PlanSettings
  moves: { person: string; from: string | null; to: string; reason: MoveReason }[]
  left: { person: string; from: string | null; reason: LeftReason }[]
  conflicts: PlanConflict[]
  dissolved: string[]
  before: PlanFigures
  after: PlanFigures
  /** By how much at most a better plan could be better; null where this one is proven best. */
  gap: Gap | null
  /** False where chances were nearly even, not exactly. */
  evenChances: boolean
  /** How people were exchanged to mix them; null where that was not asked for. */
  mix: MixReport | null
  /** What it comes to by wishes; null where seats are given otherwise. */
  wishes: WishReport | null
}

export interface KeptPlan {
  code: string
  title: string
  madeAt: string
  /** Who made it; null for a house rule. */
  madeBy: string | null
  appliedAt: string | null
  undoneAt: string | null
  /** Seats that changed on the sheet since it was made (or, once applied, since then). */
  changedSince: number
  content: PlanContent
}

/** People whom plans keep apart or together, on every sheet of the course. */
export interface KeepingView {
  code: string
  kind: 'apart' | 'together'
  people: { code: string; name: string }[]
  note: string
  /** From when on it does not count any more; null for never. */
  expiresAt: string | null
}

export interface SettleView extends SheetHead {
  sections: SectionView[]
  topics: { code: string; title: string }[]
  /** Which topic and section each group of the basis is. */
  groups: { code: string; topic: string; section: string | null; convener: string | null }[]
  basis: PlanBasis
  lotNumber: number
  /** The common limit and floor of the sheet. */
  seats: number
  floor: number
  /** Whether topics have one group for all sections, where they say nothing else. */
  mixed: boolean
  keepings: KeepingView[]
  /** What the roster says of people besides, by column: the value of each, by code. */
  attributes: { name: string; of: Record<string, string> }[]
  /** Who sits together on the other sheets of the course, by group: people by their codes. */
  sat: { sheet: string; title: string; groups: string[][] }[]
  plans: KeptPlan[]
  /** House rules that could not be carried out, with why. */
  troubles: { rule: 'close' | 'late'; why: string; since: string }[]
  /** How many groups have free seats that nobody is planned into, as they have handed in. */
  boundWithRoom: number
  mayEdit: boolean
}

/** The key of a group that a plan adds. */
export function madeKey(index: number, section: string | null): string {
  return `made ${index} ${section ?? ''}`.trim()
}

const count = (what: string) =>
  number().typeError(`${what} is a number.`).integer(`${what} is a whole number.`).required()

const settings = object({
  method: mixed<PlanMethod>()
    .oneOf([...PLAN_METHODS])
    .required(),
  lotNumber: count('The lot number').min(0).max(4_294_967_295),
  floorsFirst: boolean().required(),
  mayDissolve: boolean().required(),
  release: mixed<Release>().required(),
  made: object({
    titles: array(title('A title').required()).required().min(1).max(LIMITS.topics),
    mixed: boolean().required().default(false),
    seats: count('The limit').min(1).max(LIMITS.seats),
  })
    .nullable()
    .defined()
    .default(null),
  wishes: object({
    aim: mixed<WishAim>()
      .oneOf([...CHOICES.aim])
      .required(),
    order: array(
      mixed<Priority>()
        .oneOf([...USUAL_ORDER])
        .required(),
    )
      .required()
      .length(USUAL_ORDER.length, 'The order names floors, moves and wishes, each once.')
      .test(
        'once',
        'The order names floors, moves and wishes, each once.',
        (all) => new Set(all).size === all?.length,
      ),
    /** Which seat of each person it gives. */
    round: number()
      .typeError('The round is a number.')
      .integer('The round is a whole number.')
      .min(1, 'The first round is 1.')
      .max(MOST_SEATS_EACH, `Nobody has more than ${MOST_SEATS_EACH} seats.`),
  })
    .nullable()
    .defined()
    .default(null),
})
const group = string().nullable().defined()
/** Rules for people that a plan may tell of. */
const MOST_CONFLICTS = 2_000

const content = object({
  settings: settings.required(),
  moves: array(
    object({
      person: string().required(),
      from: group,
      to: string().required(),
      reason: mixed<MoveReason>().required(),
    }).required(),
  )
    .required()
    .max(MOST_SEATINGS),
  left: array(
    object({ person: string().required(), from: group, reason: mixed<LeftReason>().required() }).required(),
  )
    .required()
    .max(MOST_SEATINGS),
  conflicts: array(mixed<PlanConflict>().required()).max(MOST_CONFLICTS).required(),
  dissolved: codes(LIMITS.topics * LIMITS.sections).required(),
  before: mixed<PlanFigures>().required(),
  after: mixed<PlanFigures>().required(),
  gap: object({
    part: mixed<Gap['part']>().oneOf(['left', 'under', 'moved', 'uneven', 'wishes']).required(),
    by: count('The gap').min(1),
    rank: number().integer().min(0),
  })
    .nullable()
    .defined()
    .default(null),
  evenChances: boolean().required().default(true),
  mix: mixed<MixReport>().nullable().defined().default(null),
  wishes: mixed<WishReport>().nullable().defined().default(null),
})

/** Chosen by whoever made the plan, so that it cannot be applied twice. */
const key = string()
  .required('A plan carries a key.')
  .matches(/^[\w-]{8,64}$/, 'A key is 8 to 64 letters, digits, hyphens or underscores.')

export const keepPlanBody = object({
  key,
  title: title('The name').required('Give the plan a name.'),
  content: content.required(),
})
export const applyPlanBody = object({
  key,
  title: title('The name').required('Give the plan a name.'),
  content: content.required(),
  /** Whether those who get a seat are told by mail. */
  tell: boolean().required(),
  /** Whether the sheet goes out with it: both are done, or neither. */
  publish: boolean().default(false),
})
export const keepingBody = object({
  kind: mixed<'apart' | 'together'>().oneOf(['apart', 'together']).required(),
  people: codes(40, 'At most 40 people keep apart or together.')
    .required()
    .min(2, 'It takes two people at least.'),
  note: string().max(LIMITS.place, `A note holds ${LIMITS.place} characters at most.`).default(''),
  /** A day, `YYYY-MM-DD`, in the course's zone, after which it does not count; null for none. */
  until: string()
    .nullable()
    .matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'Give a day as 2026-05-13.', excludeEmptyString: true })
    .defined()
    .default(null),
})

/** What a plan is made from, and the plans there are. */
export const settle = plainRoute<SettleView>()('GET', '/api/sheets/:sheet/settle', 'staff')
export const keepPlan = route<SettleView>()(
  'POST',
  '/api/sheets/:sheet/plans',
  'instructor',
  keepPlanBody,
  LARGE,
)
export const dropPlan = plainRoute<SettleView>()('DELETE', '/api/sheets/:sheet/plans/:plan', 'instructor')
/** Applies a plan in one step, checked against the seats as they stand. What does not fit is named, and nothing is done. */
export const applyPlan = route<SettleView>()(
  'POST',
  '/api/sheets/:sheet/plans/apply',
  'instructor',
  applyPlanBody,
  LARGE,
)
/** Takes an applied plan back, as far as people still sit where it put them. */
export const undoPlan = plainRoute<{ undone: number; kept: string[] }>()(
  'POST',
  '/api/sheets/:sheet/plans/:plan/undo',
  'instructor',
)
export const addKeeping = route<SettleView>()(
  'POST',
  '/api/sheets/:sheet/keepings',
  'instructor',
  keepingBody,
)
export const dropKeeping = plainRoute<SettleView>()(
  'DELETE',
  '/api/sheets/:sheet/keepings/:keeping',
  'instructor',
)
