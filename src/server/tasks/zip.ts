import type { Archiver, ZipEntryData } from 'archiver'
import type { Response } from 'express'
import { distinctNames, keptName, packedName } from '../../core/files.ts'
import { localTimeOf, sayInstantWithYear } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import type { Disk } from '../files/disk.ts'
import { attachment, fileName } from '../http/files.ts'
import { ProblemError } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createReads, type Work, workOn } from './owners.ts'
import type { HandIn, Task } from './store.ts'

/**
 * Sends what stands handed in for a task as a zip: a folder for each group or student, in it the files, the text, the
 * links, and a note of who handed it in and for whom. Written as it is read, so that memory does not grow with it.
 */
export async function sendHandIns(
  res: Response,
  task: Task,
  { sheet, course, reader }: { sheet: Sheet; course: Course; reader: Enrolment },
  { stores, disk }: { stores: Stores; disk: Disk },
): Promise<void> {
  const reads = createReads(reader, sheet, stores)
  const works = workOn(task, sheet, stores).flatMap((work) =>
    work.standing && reads(work.owner) ? [{ work, standing: work.standing }] : [],
  )
  if (works.length === 0)
    throw new ProblemError('nothing-handed-in', 'Nothing is handed in for this task yet.')
  const called = works.map(({ work }) => ownerName(work, course, stores))
  const folders = distinctNames(
    works.map(({ work }, i) => {
      // Two students of one name are told apart by their addresses.
      const twice = called.filter((name) => name === called[i]).length > 1
      const email = twice ? stores.roster.enrolment(work.owner.student_id ?? 0)?.email : undefined
      const name = email ? `${called[i]} (${email})` : (called[i] ?? '')
      return packedName(keptName(name) ?? 'work')
    }),
  )
  const { default: archiver } = await import('archiver')
  const zip = archiver('zip', { zlib: { level: 1 } })
  res.setHeader('Content-Disposition', attachment(fileName([course.course_code, task.title, 'hand-ins.zip'])))
  res.type('application/zip')
  const done = new Promise<void>((resolve, reject) => {
    zip.on('error', reject)
    res.on('close', () => {
      // Whoever closed the page needs no more of it.
      if (!res.writableFinished) zip.abort()
      resolve()
    })
  })
  zip.pipe(res)
  works.forEach(({ standing }, i) => {
    putWork(zip, folders[i] ?? '', standing, course, { stores, disk })
  })
  await Promise.all([zip.finalize(), done])
}

function putWork(
  zip: Archiver,
  folder: string,
  standing: HandIn,
  course: Course,
  { stores, disk }: { stores: Stores; disk: Disk },
): void {
  const { files, roster } = stores
  const nameOf = (id: number) => {
    const one = roster.enrolment(id)
    return one ? `${one.name} <${one.email}>` : ''
  }
  const kept = files.byIds(JSON.parse(standing.files) as number[])
  const links = JSON.parse(standing.links) as string[]
  const note = [
    `Version ${standing.version}, handed in ${sayInstantWithYear(standing.handed_at, course.zone)} (${course.zone})${standing.late === 1 ? ', late' : ''} by ${nameOf(standing.by_id)}`,
    `For ${(JSON.parse(standing.members) as number[]).map(nameOf).join(', ')}`,
    ...(links.length > 0 ? ['', ...links] : []),
  ].join('\n')
  const own = [{ name: 'handed-in.txt', text: note }]
  if (standing.text !== '') own.push({ name: 'text.txt', text: standing.text })
  const names = distinctNames([...own.map(({ name }) => name), ...kept.map(({ name }) => packedName(name))])
  // A zip holds the wall clock of nowhere in particular: that of the course, here, as everywhere else in it.
  const date = new Date(`${localTimeOf(standing.handed_at, course.zone)}Z`)
  own.forEach(({ text }, i) => {
    zip.append(`${text}\n`, { name: `${folder}/${names[i]}`, date })
  })
  kept.forEach(({ stored, type }, i) => {
    const name = `${folder}/${names[own.length + i]}`
    // What is no text is packed already, mostly.
    zip.file(disk.pathOf(stored), { name, date, store: type !== 'text/plain' } as ZipEntryData)
  })
}

function ownerName({ owner }: Work, course: Course, { sheets, roster }: Stores): string {
  if (owner.group_id === null) return roster.enrolment(owner.student_id)?.name ?? ''
  const group = sheets.groupById(owner.group_id)
  const section = roster.sectionNames(course.id).get(group?.section_id ?? 0)
  return [sheets.topicById(group?.topic_id ?? 0)?.title, section].filter(Boolean).join(', ')
}
