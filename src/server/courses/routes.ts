import {
  addCourse,
  addSection as addSectionRoute,
  changeCourse,
  course,
  courses,
  renameSection as renameSectionRoute,
} from '../../contract/courses.ts'
import { find } from '../../contract/find.ts'
import type { Db } from '../db/open.ts'
import { fieldProblem, notFound } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { findView } from './find.ts'
import { addSection, renameSection } from './sections.ts'
import { coursesView, courseView } from './views.ts'

/** Courses: the list, one of them, a new one. */
export function bindCourses(serve: Serve, db: Db, stores: Stores, unit: UnitOfWork): void {
  serve(find, ({ person }) => findView(person.id, stores))
  serve(courses, ({ person, now }) => coursesView(person.id, now, stores))
  serve(course, ({ course, enrolment }) => courseView(course, enrolment.role, stores))
  serve(changeCourse, ({ course, enrolment, body, now }) => {
    const may = body.tutorsMay ?? course.tutors_may
    const mark = body.tutorsMark ?? course.tutors_mark === 1
    const language = body.nameLanguage ?? course.name_language
    const particles = body.nameParticles ?? course.name_particles
    unit.onCourse(course, now, () => {
      stores.courses.letTutors(course.id, may, mark)
      stores.courses.orderNames(course.id, { language, particles })
    })
    return courseView(stores.courses.byId(course.id) ?? course, enrolment.role, stores)
  })
  serve(addSectionRoute, ({ course, enrolment, person, body, now }) => {
    unit.onCourse(course, now, () => addSection({ course, person, now, stores }, body.name))
    return courseView(course, enrolment.role, stores)
  })
  serve(renameSectionRoute, ({ course, enrolment, person, params, body, now }) => {
    const section = stores.roster.sections(course.id).find(({ code }) => code === params.section)
    if (!section) throw notFound('The course has no such section.')
    unit.onCourse(course, now, () => renameSection({ course, person, now, stores }, section, body.name))
    return courseView(course, enrolment.role, stores)
  })
  serve(addCourse, ({ person, body, now }) => {
    const names = body.sections.map((name) => name.toLowerCase())
    const repeated = body.sections.findIndex((name, i) => names.indexOf(name.toLowerCase()) !== i)
    if (repeated >= 0) {
      const message = `“${body.sections[repeated]}” stands twice. Each section needs a name of its own.`
      throw fieldProblem(`sections[${repeated}]`, message, 'section-names-repeat')
    }
    const taken = stores.roster
      .enrolmentsOfPerson(person.id)
      .some(
        ({ course_id }) =>
          stores.courses.byId(course_id)?.course_code.toLowerCase() === body.courseCode.toLowerCase(),
      )
    if (taken) {
      throw fieldProblem(
        'courseCode',
        `You already have a course ${body.courseCode}. Add the term, perhaps.`,
        'course-code-taken',
      )
    }
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
