// Holds the arrows of the architecture: web -> contract -> core, server -> contract -> core, demo -> server.
// Prints every import that runs another way, and fails.
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
  roster: ['person', 'section', 'enrolment', 'roster_undo'],
  sheets: ['sheet', 'topic', 'sheet_group', 'group_limit', 'held_seat', 'group_tutor'],
  requests: ['seat_request'],
  invitations: ['invitation'],
  calendar: ['calendar_feed'],
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
  ],
  files: ['kept_file', 'upload', 'group_file', 'group_file_version'],
  groups: ['group_extras', 'group_place', 'group_message'],
  talk: ['talk_subject', 'talk_post', 'talk_earlier', 'talk_mention', 'talk_read'],
  marks: ['mark'],
  nudges: ['nudge', 'nudged', 'visit'],
  plans: ['plan', 'keeping', 'keeping_member', 'closing', 'rule_trouble'],
}
const SQL_TABLE = /\b(?:FROM|JOIN|INTO|UPDATE)\s+([a-z_]+)\b/g

/** Every place where a subject of the server reaches into another's tables. */
export function tableFaults(file, text) {
  const [layer, room] = relative(src, file).split('/')
  if (layer !== 'server' || file.endsWith('.test.ts')) return []
  const owner = (table) => Object.keys(TABLES).find((name) => TABLES[name].includes(table))
  return [...text.matchAll(SQL_TABLE)]
    .map(([, table]) => table)
    .filter((table) => owner(table) && owner(table) !== room)
    .map((table) => `${relative(root, file)}: ${room} reads or writes ${owner(table)}’s table ${table}`)
}

function filesBelow(folder) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return filesBelow(path)
    return /\.tsx?$/.test(name) ? [path] : []
  })
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const faults = filesBelow(src).flatMap((file) => {
    const text = readFileSync(file, 'utf8')
    return [...faultsOf(file, text), ...tableFaults(file, text)]
  })
  for (const fault of faults) console.error(fault)
  if (faults.length > 0) process.exit(1)
}
