import { coursePage, zoneMoves } from '../../contract/coursePage.ts'
import {
  addCourse,
  addSection as addSectionRoute,
  archiveCourse,
  changeCourse,
  course,
  courses,
  deleteCourse,
  removeSection as removeSectionRoute,
  renameSection as renameSectionRoute,
  restoreCourse,
  restoreSection as restoreSectionRoute,
} from '../../contract/courses.ts'
import { find } from '../../contract/find.ts'
import { isZone } from '../../core/zone.ts'
import type { Db } from '../db/open.ts'
import { fieldProblem, notFound } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { findView } from './find.ts'
import { putAway, setDeleted } from './putAway.ts'
import { removeSection, restoreSection } from './removeSection.ts'
import { addSection, renameSection } from './sections.ts'
import type { Course } from './store.ts'
import { coursePageView, coursesView, courseView } from './views.ts'
import { movedTimes } from './zone.ts'

/** Courses: the list, one of them, a new one. */
export function bindCourses(serve: Serve, db: Db, stores: Stores, unit: UnitOfWork): void {
  serve(find, ({ person }) => findView(person.id, stores))
  serve(courses, ({ person, now }) => coursesView(person.id, now, stores))
  serve(course, ({ course, enrolment }) => courseView(course, enrolment.role, stores))
  serve(changeCourse, ({ course, enrolment, person, body, now }) => {
    if (body.courseCode !== undefined) refuseTakenCode(person, body.courseCode, stores, course)
    const may = body.tutorsMay ?? course.tutors_may
    const mark = body.tutorsMark ?? course.tutors_mark === 1
    const language = body.nameLanguage ?? course.name_language
    const particles = body.nameParticles ?? course.name_particles
    unit.onCourse(course, now, () => {
      stores.courses.letTutors(course.id, may, mark)
      stores.courses.orderNames(course.id, { language, particles })
      stores.courses.name(course.id, body.courseCode ?? course.course_code, body.title ?? course.title)
      if (body.zone === undefined || body.zone === course.zone) return
      if (body.zoneKeeps !== 'moment')
        for (const write of movedTimes(course, body.zone, now, stores).write) write()
      stores.courses.setZone(course.id, body.zone)
    })
    return courseView(stores.courses.byId(course.id) ?? course, enrolment.role, stores)
  })
  serve(addSectionRoute, ({ course, enrolment, person, body, now }) => {
    unit.onCourse(course, now, () => addSection({ course, person, now, stores }, body.name))
    return courseView(course, enrolment.role, stores)
  })
  serve(renameSectionRoute, ({ course, enrolment, person, params, body, now }) => {
    const section = sectionIn(course, params.section)
    unit.onCourse(course, now, () => renameSection({ course, person, now, stores }, section, body.name))
    return courseView(course, enrolment.role, stores)
  })
  const sectionIn = (course: Course, code: string) => {
    const section = stores.roster.sections(course.id).find((one) => one.code === code)
    if (!section) throw notFound('The course has no such section.')
    return section
  }
  serve(removeSectionRoute, ({ course, enrolment, person, params, body, now }) => {
    const section = sectionIn(course, params.section)
    const into = body.into === null ? null : sectionIn(course, body.into)
    unit.onCourse(course, now, () =>
      removeSection({ course, person, now, stores }, section, into, body.confirmed === true),
    )
    return courseView(course, enrolment.role, stores)
  })
  serve(restoreSectionRoute, ({ course, enrolment, person, params, now }) => {
    const restored = unit.onCourse(course, now, () =>
      restoreSection({ course, person, now, stores }, params.section),
    )
    return { ...courseView(course, enrolment.role, stores), restored }
  })
  serve(coursePage, ({ course, enrolment, now }) => coursePageView(course, enrolment, now, stores))
  serve(zoneMoves, ({ course, params, now }) => {
    if (!isZone(params.zone)) throw notFound('No such time zone is known here.')
    return { zone: params.zone, moves: movedTimes(course, params.zone, now, stores).moves }
  })
  serve(archiveCourse, ({ course, enrolment, person, body, now }) => {
    unit.onCourse(course, now, () => putAway({ course, person, now, stores }, body.archived), 'allowed')
    return courseView(stores.courses.byId(course.id) ?? course, enrolment.role, stores)
  })
  serve(deleteCourse, ({ course, person, now }) => {
    unit.onCourse(course, now, () => setDeleted({ course, person, now, stores }, true), 'allowed')
    return null
  })
  serve(restoreCourse, ({ person, params, now }) => {
    const course = stores.courses.deleted(params.gone)
    const enrolment = course && stores.roster.enrolmentIn(course.id, person.id)
    if (!course || enrolment?.role !== 'instructor' || enrolment.status !== 'active')
      throw notFound('There is no such course to bring back.')
    unit.onCourse(course, now, () => setDeleted({ course, person, now, stores }, false), 'allowed')
    return courseView(stores.courses.byId(course.id) ?? course, enrolment.role, stores)
  })
  serve(addCourse, ({ person, body, now }) => {
    const names = body.sections.map((name) => name.toLowerCase())
    const repeated = body.sections.findIndex((name, i) => names.indexOf(name.toLowerCase()) !== i)
    if (repeated >= 0) {
      const message = `“${body.sections[repeated]}” stands twice. Each section needs a name of its own.`
      throw fieldProblem(`sections[${repeated}]`, message, 'section-names-repeat')
    }
    refuseTakenCode(person, body.courseCode, stores)
    return db
      .transaction(() => {
        const added = stores.courses.add(body, now)
        body.sections.forEach((name, i) => {
          stores.roster.addSection(added.id, name, i + 1)
        })
        const name = stores.roster.nameOf(person)
        stores.roster.enrol(
          added.id,
          person.id,
          { name, role: 'instructor', section_id: null, status: 'active' },
          now,
        )
        return courseView(added, 'instructor', stores)
      })
      .immediate()
  })
}

/** @throws ProblemError beside the code, where the person has another course that the school calls so */
function refuseTakenCode(person: Person, courseCode: string, stores: Stores, own?: Course): void {
  const taken = stores.roster.enrolmentsOfPerson(person.id).some(({ course_id }) => {
    const known = course_id === own?.id ? undefined : stores.courses.byId(course_id)
    return known?.course_code.toLowerCase() === courseCode.toLowerCase()
  })
  if (taken)
    throw fieldProblem(
      'courseCode',
      `You already have a course ${courseCode}. Add the term, perhaps.`,
      'course-code-taken',
    )
}
