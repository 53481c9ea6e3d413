import { importRoster as importRoute, previewRoster, roster as rosterRoute } from '../../contract/roster.ts'
import type { Db } from '../db/open.ts'
import type { Serve } from '../http/serve.ts'
import type { Hub } from '../live/hub.ts'
import type { Stores } from '../stores.ts'
import { importRoster, previewImport, rosterPeople } from './import.ts'

/** The roster: who is in it, and bringing in a file. */
export function bindRoster(serve: Serve, db: Db, stores: Stores, hub: Hub): void {
  const { roster, sheets, seats } = stores

  const seatsOf = (courseId: number) => (enrolmentId: number) =>
    sheets.ofCourse(courseId).flatMap((sheet) => {
      const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
      const groups = new Map(sheets.groups(sheet.id).map(({ id, topic_id }) => [id, topic_id]))
      return seats
        .heldBy(sheet.id, enrolmentId)
        .map(({ group_id }) => `${titles.get(groups.get(group_id) ?? 0) ?? ''} (${sheet.title})`)
    })

  serve(rosterRoute, ({ course }) => ({
    people: rosterPeople(course.id, roster).map(({ id: _, ...person }) => person),
  }))
  serve(previewRoster, ({ course, body }) => previewImport(course.id, body.csv, roster, seatsOf(course.id)))
  serve(importRoute, ({ course, body, now }) => {
    const done = db
      .transaction(() => importRoster(course.id, body.csv, body.skipFaults, now, roster))
      .immediate()
    hub.refresh(sheets.ofCourse(course.id).map(({ id }) => id))
    return done
  })
}
