import '../../../contract/wording.ts'
import { yupResolver } from '@hookform/resolvers/yup'
import { useFieldArray, useForm } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { array, object, string } from 'yup'
import { addCourse, courseBody } from '../../../contract/courses.ts'
import { LIMITS } from '../../../core/limits.ts'
import { useMe } from '../../access/me.tsx'
import { call, faultOf } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { BOX, Field, FieldFrame } from '../../kit/Field.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { HERE, zonesWith } from './zones.ts'

// The form keeps each section in an object of its own, as its field list needs it.
const form = courseBody.shape({
  sections: array(
    object({ name: string().trim().required('A section’s name is missing.').max(LIMITS.sectionName) }),
  )
    .required()
    .max(LIMITS.sections),
})

/** Adds a course: what the school calls it, its time zone, its sections. */
export function NewCoursePage() {
  const { mayAddCourses } = useMe()
  return (
    <Frame title="Add a course" crumbs={[{ label: 'Courses', to: '/' }, { label: 'Add a course' }]}>
      <div className="mx-auto w-full max-w-xl px-5 py-8">
        <h1 className="mb-4 text-2xl">Add a course</h1>
        {mayAddCourses ? (
          <CourseForm />
        ) : (
          <p className="text-soft">
            Your address is not among those that may add courses. Ask whoever runs Haplon.
          </p>
        )}
      </div>
    </Frame>
  )
}

function CourseForm() {
  const navigate = useNavigate()
  const { register, control, handleSubmit, formState, setError } = useForm({
    resolver: yupResolver(form),
    defaultValues: { courseCode: '', title: '', zone: HERE, sections: [] },
  })
  const sections = useFieldArray({ control, name: 'sections' })
  const { errors } = formState
  const add = handleSubmit(async (typed) => {
    try {
      const names = typed.sections.map(({ name }) => name)
      const course = await call(addCourse, {}, { ...typed, sections: names })
      navigate(`/courses/${course.code}/roster`)
    } catch (error) {
      const fault = faultOf(error)
      for (const { path, message } of fault.problem.errors ?? []) {
        const section = /^sections\[(\d+)\]/.exec(path)
        if (section) setError(`sections.${Number(section[1])}.name`, { message })
        else setError(path as 'courseCode', { message })
      }
      if (!fault.problem.errors) setError('root', { message: fault.message })
    }
  })
  return (
    <form
      onSubmit={(event) => void add(event)}
      noValidate
      className="flex flex-col gap-5 rounded-card border border-line bg-surface p-5"
    >
      <div className="grid grid-cols-[10rem_1fr] gap-4 max-sm:grid-cols-1">
        <Field
          label="Course code"
          autoFocus
          placeholder="FERM 210"
          {...register('courseCode')}
          fault={errors.courseCode?.message}
        />
        <Field
          label="Title"
          placeholder="Fermentation Science"
          {...register('title')}
          fault={errors.title?.message}
        />
      </div>
      <FieldFrame label="Time zone" hint="Windows open and close by its clocks." fault={errors.zone?.message}>
        {(ids) => (
          <select {...ids} {...register('zone')} className={`${BOX} min-h-9`}>
            {zonesWith(HERE).map((zone) => (
              <option key={zone}>{zone}</option>
            ))}
          </select>
        )}
      </FieldFrame>
      <fieldset className="flex flex-col gap-2">
        <legend className="text-sm font-semibold text-soft">Sections</legend>
        <p className="text-sm text-faint">
          Lab slots or class periods, if the course has them. Each topic then gets a group in each.
        </p>
        {sections.fields.map((field, i) => (
          <div key={field.id} className="grid grid-cols-[1fr_auto] items-start gap-2">
            <Field
              label={`Section ${i + 1}`}
              placeholder="Tue lab"
              {...register(`sections.${i}.name`)}
              onKeyDown={(event) => {
                // Enter goes on to a further section; the course is added by its button.
                if (event.key !== 'Enter') return
                event.preventDefault()
                if (event.currentTarget.value.trim() !== '' && sections.fields.length < LIMITS.sections)
                  sections.append({ name: '' })
              }}
              fault={errors.sections?.[i]?.name?.message}
            />
            <Button
              look="quiet"
              className="mt-6"
              aria-label={`Remove section ${i + 1}`}
              onClick={() => sections.remove(i)}
            >
              Remove
            </Button>
          </div>
        ))}
        {sections.fields.length < LIMITS.sections && (
          <div>
            <Button size="small" onClick={() => sections.append({ name: '' })}>
              Add a section
            </Button>
          </div>
        )}
      </fieldset>
      {errors.root && (
        <p role="alert" className="text-ember">
          {errors.root.message}
        </p>
      )}
      <div className="flex justify-end border-t tear pt-4">
        <Button type="submit" look="main" busy={formState.isSubmitting}>
          Add the course
        </Button>
      </div>
    </form>
  )
}
