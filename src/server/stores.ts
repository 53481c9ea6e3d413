import { createPasskeyStore, type PasskeyStore } from './access/passkeyStore.ts'
import { type AccessStore, createAccessStore } from './access/store.ts'
import { type AnnouncementStore, createAnnouncementStore } from './announcements/store.ts'
import { type CalendarStore, createCalendarStore } from './calendar/store.ts'
import { type ConvenerStore, createConvenerStore } from './conveners/store.ts'
import { type CourseStore, createCourseStore } from './courses/store.ts'
import type { Db } from './db/open.ts'
import { createGroupFileStore, type GroupFileStore } from './files/groupStore.ts'
import { createFileStore, type FileStore } from './files/store.ts'
import { createGroupStore, type GroupStore } from './groups/store.ts'
import { createInvitationStore, type InvitationStore } from './invitations/store.ts'
import { createLedgerStore, type LedgerStore } from './ledger/store.ts'
import { createListStore, type ListStore } from './lists/store.ts'
import { createMailStore, type MailStore } from './mail/store.ts'
import { createSecondStore, type SecondStore } from './marks/secondStore.ts'
import { createMarkStore, type MarkStore } from './marks/store.ts'
import { createThereStore, type ThereStore } from './marks/thereStore.ts'
import { createMeetingStore, type MeetingStore } from './meetings/store.ts'
import { createNudgeStore, type NudgeStore } from './nudges/store.ts'
import { createPlanStore, type PlanStore } from './plans/store.ts'
import { createProgramStore, type ProgramStore } from './programs/store.ts'
import { createRemarkStore, type RemarkStore } from './remarks/store.ts'
import { createRequestStore, type RequestStore } from './requests/store.ts'
import { createRosterStore, type RosterStore } from './roster/store.ts'
import { createRoomCount, type RoomCount } from './seats/room.ts'
import { createSeatStore, type SeatStore } from './seats/store.ts'
import { type Audience, createAudience } from './sheets/audience.ts'
import { createSheetStore, type SheetStore } from './sheets/store.ts'
import { createSwapStore, type SwapStore } from './swaps/store.ts'
import { createDigestStore, type DigestStore } from './talk/digestStore.ts'
import { createNoticeStore, type NoticeStore } from './talk/noticeStore.ts'
import { createTalkStore, type TalkStore } from './talk/store.ts'
import { createDifferenceStore, type DifferenceStore } from './tasks/differenceStore.ts'
import { createShareStore, type ShareStore } from './tasks/shareStore.ts'
import { createTaskStore, type TaskStore } from './tasks/store.ts'
import { createDemandBook, type DemandBook } from './wishes/demand.ts'
import { createWishStore, type WishStore } from './wishes/store.ts'

/** One store per subject, over one database, and what is counted across them. */
export interface Stores {
  access: AccessStore
  announcements: AnnouncementStore
  audience: Audience
  calendar: CalendarStore
  conveners: ConvenerStore
  courses: CourseStore
  demand: DemandBook
  differences: DifferenceStore
  digests: DigestStore
  files: FileStore
  groupFiles: GroupFileStore
  groups: GroupStore
  invitations: InvitationStore
  ledger: LedgerStore
  lists: ListStore
  mail: MailStore
  marks: MarkStore
  meetings: MeetingStore
  talk: TalkStore
  tasks: TaskStore
  there: ThereStore
  notices: NoticeStore
  nudges: NudgeStore
  passkeys: PasskeyStore
  plans: PlanStore
  programs: ProgramStore
  remarks: RemarkStore
  requests: RequestStore
  room: RoomCount
  roster: RosterStore
  seats: SeatStore
  second: SecondStore
  shares: ShareStore
  sheets: SheetStore
  swaps: SwapStore
  wishes: WishStore
}

export function createStores(db: Db): Stores {
  const seats = createSeatStore(db)
  const sheets = createSheetStore(db)
  const ledger = createLedgerStore(db)
  const roster = createRosterStore(db)
  const lists = createListStore(db)
  const wishes = createWishStore(db)
  const audience = createAudience({ roster, seats, sheets, lists })
  return {
    access: createAccessStore(db),
    announcements: createAnnouncementStore(db),
    audience,
    calendar: createCalendarStore(db),
    conveners: createConvenerStore(db),
    courses: createCourseStore(db),
    demand: createDemandBook({ audience, sheets, wishes }),
    differences: createDifferenceStore(db),
    digests: createDigestStore(db),
    files: createFileStore(db),
    groupFiles: createGroupFileStore(db),
    groups: createGroupStore(db),
    invitations: createInvitationStore(db),
    ledger,
    lists,
    mail: createMailStore(db),
    marks: createMarkStore(db),
    meetings: createMeetingStore(db),
    talk: createTalkStore(db),
    tasks: createTaskStore(db),
    there: createThereStore(db),
    notices: createNoticeStore(db),
    nudges: createNudgeStore(db),
    passkeys: createPasskeyStore(db),
    plans: createPlanStore(db),
    programs: createProgramStore(db),
    remarks: createRemarkStore(db),
    requests: createRequestStore(db),
    room: createRoomCount({ seats, sheets, ledger }),
    roster,
    seats,
    second: createSecondStore(db),
    shares: createShareStore(db),
    sheets,
    swaps: createSwapStore(db),
    wishes,
  }
}
