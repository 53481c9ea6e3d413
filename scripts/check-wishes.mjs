// Says whether the result in a record of wishes is what its rules give: `npm run check-wishes FILE`.
import { readFileSync } from 'node:fs'
import { checkWishes, uncheckedIn } from './lib/checkWishes.mjs'

const [file] = process.argv.slice(2)
if (!file) {
  console.error('Give the record: npm run check-wishes FILE')
  process.exit(2)
}
let record
try {
  record = JSON.parse(readFileSync(file, 'utf8'))
} catch (error) {
  console.error(`${file} cannot be read: ${error.message}`)
  process.exit(2)
}
const faults = checkWishes(record)
for (const fault of faults) console.log(fault)
if (faults.length === 0) {
  console.log(
    `The result is what the rules give, for ${record.rows.length} rows and ${record.groups.length} groups.`,
  )
  for (const note of uncheckedIn(record)) console.log(note)
}
process.exit(faults.length === 0 ? 0 : 1)
