// Holds the arrows of the architecture: web -> contract -> core, server -> contract -> core, demo -> server, the floors
// of the web, and that no files import each other in a circle. Prints every import that runs another way, and fails.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const src = join(root, 'src')

/** What each layer may import: layers of ours, and packages (`*` for any). */
const RULES = {
  core: { layers: ['core'], packages: ['date-fns', '@date-fns/tz', 'papaparse'] },
  contract: { layers: ['contract', 'core'], packages: ['yup'] },
  server: { layers: ['server', 'contract', 'core'], packages: '*' },
  web: { layers: ['web', 'contract', 'core'], packages: '*' },
  demo: { layers: ['demo', 'server', 'contract', 'core'], packages: '*' },
}
const NEVER = {
  web: [/^node:/, /^(express|better-sqlite3|better-sse|nodemailer|pino)/],
  server: [/^(react|react-dom|react-router|swr|radix-ui|@dnd-kit)(\/|$)/],
  demo: [/^(react|react-dom|react-router|swr|radix-ui|@dnd-kit)(\/|$)/],
}
const IMPORT =
  /(?:^|\n)\s*(?:import|export)\s(?:[^'"]*?\sfrom\s)?['"]([^'"]+)['"]|\bimport\(\s*['"]([^'"]+)['"]\s*\)/g

/** Every fault of one file's imports, as a line to print. */
export function faultsOf(file, text) {
  const layer = relative(src, file).split('/')[0]
  const rule = RULES[layer]
  const test = /\.test\.tsx?$/.test(file)
  if (!rule) return [`${relative(root, file)}: src has no layer called ${layer}`]
  const faults = []
  for (const [, stated, loaded] of text.matchAll(IMPORT)) {
    const name = stated ?? loaded
    const fault = name.startsWith('.')
      ? layerFault(file, layer, rule, name)
      : packageFault(layer, rule, name, test)
    if (fault) faults.push(`${relative(root, file)}: ${fault}`)
  }
  return faults
}

function layerFault(file, layer, rule, name) {
  const to = relative(src, resolve(dirname(file), name)).split('/')
  if (to[0] === '..') return `imports ${name}, outside src`
  return rule.layers.includes(to[0]) ? null : `${layer} imports ${to.join('/')}`
}

function packageFault(layer, rule, name, test) {
  if (test && ['vitest', 'fast-check'].includes(name)) return null
  const owner = name.startsWith('@') ? name.split('/').slice(0, 2).join('/') : name.split('/')[0]
  if (rule.packages !== '*' && !rule.packages.includes(owner)) return `${layer} imports the package ${name}`
  return NEVER[layer]?.some((pattern) => pattern.test(name)) ? `${layer} imports ${name}` : null
}

/** Which tables each subject of the server owns; nobody else names them in SQL. */
const TABLES = {
  access: ['session', 'sign_in_code'],
  courses: ['course'],
  programs: ['program_token'],
  lists: ['people_list', 'people_list_member'],
  roster: ['person', 'section', 'enrolment', 'roster_undo'],
  sheets: ['sheet', 'sheet_section', 'topic', 'sheet_group', 'group_limit', 'held_seat', 'group_tutor'],
  requests: ['seat_request'],
  invitations: ['invitation'],
  wishes: ['wish_list', 'wish_settling'],
  swaps: ['swap', 'swap_wish', 'swap_part'],
  conveners: ['leave_ask'],
  calendar: ['calendar_feed', 'calendar_entry'],
  announcements: ['announcement'],
  seats: ['seat', 'claim_answer', 'line_place'],
  ledger: ['ledger'],
  mail: ['mail'],
  tasks: [
    'task',
    'task_group',
    'hand_in',
    'hand_in_member',
    'work_draft',
    'task_file',
    'draft_file',
    'hand_in_file',
    'task_difference',
    'task_difference_for',
    'work_share',
  ],
  files: ['kept_file', 'upload', 'group_file', 'group_file_version'],
  groups: ['group_extras', 'group_own_extras', 'group_place', 'group_message'],
  meetings: ['meeting', 'could_meet'],
  talk: [
    'talk_subject',
    'talk_post',
    'talk_earlier',
    'talk_mention',
    'talk_read',
    'talk_notice',
    'talk_noticed',
    'talk_digest',
  ],
  marks: ['mark', 'marked_there', 'there_by_hand', 'second_reading'],
  remarks: ['remark', 'remark_answer', 'feedback_file'],
  nudges: ['nudge', 'nudged', 'visit'],
  plans: ['plan', 'keeping', 'keeping_member', 'closing', 'rule_trouble', 'late_told'],
}
/** What takes out of a copy of the database what may not be read in it; the copy is thrown away. */
const OVER_ALL_TABLES = 'server/rehearsals/hidden.ts'
const SQL_TABLE = /\b(?:FROM|JOIN|INTO|UPDATE)\s+([a-z_]+)\b/g

/** Every place where a subject of the server reaches into another's tables. */
export function tableFaults(file, text) {
  const [layer, room] = relative(src, file).split('/')
  if (layer !== 'server' || file.endsWith('.test.ts')) return []
  if (relative(src, file) === OVER_ALL_TABLES) return []
  const owner = (table) => Object.keys(TABLES).find((name) => TABLES[name].includes(table))
  return [...text.matchAll(SQL_TABLE)]
    .map(([, table]) => table)
    .filter((table) => owner(table) && owner(table) !== room)
    .map((table) => `${relative(root, file)}: ${room} reads or writes ${owner(table)}’s table ${table}`)
}

/**
 * The rooms of the web by floor: each may use those above it in this list, and its own. `instructor` stands for the
 * files that all its rooms share.
 */
const WEB_FLOORS = [
  ['data'],
  ['kit'],
  ['access', 'files'],
  ['remarks', 'tables'],
  ['student', 'group'],
  ['instructor/record', 'instructor'],
  ['instructor/compose', 'instructor/run', 'instructor/settle', 'instructor/work', 'instructor/courses'],
  [
    'instructor/ledger',
    'instructor/groups',
    'instructor/roster',
    'instructor/newSheet',
    'instructor/person',
    'instructor/programs',
  ],
  ['instructor/pages'],
  ['top'],
]

/** The room of the web that a file is in; null outside the web. */
function webRoom(file) {
  const [layer, ...path] = relative(src, file).split('/')
  if (layer !== 'web') return null
  if (path.length === 1) return 'top'
  if (path[0] !== 'instructor' || path.length > 2)
    return path.slice(0, path[0] === 'instructor' ? 2 : 1).join('/')
  return /Page\.tsx$/.test(path[1]) ? 'instructor/pages' : 'instructor'
}

/** Every import of the web that runs up from a lower room to one that builds on it. */
export function arrowFaults(file, text) {
  const room = webRoom(file)
  if (room === null) return []
  const floor = (name) => WEB_FLOORS.findIndex((rooms) => rooms.includes(name))
  if (floor(room) < 0) return [`${relative(root, file)}: no floor is known of the room ${room}`]
  return importsOf(file, text)
    .map((to) => webRoom(to))
    .filter((to) => to !== null && to !== room && (floor(to) > floor(room) || floor(to) < 0))
    .map((to) => `${relative(root, file)}: ${room} imports ${to}, which builds on it`)
}

/** The files of ours that a file imports. */
function importsOf(file, text) {
  return [...text.matchAll(IMPORT)]
    .map(([, stated, loaded]) => stated ?? loaded)
    .filter((name) => name.startsWith('.'))
    .map((name) => resolve(dirname(file), name))
}

/**
 * Every circle of files that import each other, types included; each with its files in order of their names.
 * @param texts the text of each file by its path
 */
export function circlesIn(texts) {
  const next = new Map(
    [...texts].map(([file, text]) => [file, importsOf(file, text).filter((to) => texts.has(to))]),
  )
  const order = new Map()
  const lowest = new Map()
  const open = []
  const circles = []
  const visit = (file) => {
    order.set(file, order.size)
    lowest.set(file, order.get(file))
    open.push(file)
    for (const to of next.get(file) ?? []) {
      if (!order.has(to)) visit(to)
      if (open.includes(to)) lowest.set(file, Math.min(lowest.get(file), lowest.get(to)))
    }
    if (lowest.get(file) !== order.get(file)) return
    const circle = open.splice(open.indexOf(file))
    if (circle.length > 1) circles.push(circle.sort())
  }
  for (const file of texts.keys()) if (!order.has(file)) visit(file)
  return circles
}

function filesBelow(folder) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return filesBelow(path)
    return /\.tsx?$/.test(name) ? [path] : []
  })
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const texts = new Map(filesBelow(src).map((file) => [file, readFileSync(file, 'utf8')]))
  const faults = [...texts].flatMap(([file, text]) => [
    ...faultsOf(file, text),
    ...tableFaults(file, text),
    ...arrowFaults(file, text),
  ])
  for (const circle of circlesIn(texts))
    faults.push(`a circle: ${circle.map((file) => relative(root, file)).join(', ')}`)
  for (const fault of faults) console.error(fault)
  if (faults.length > 0) process.exit(1)
}
