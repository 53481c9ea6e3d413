import type { Fault } from '../data/call.ts'

/** What is wrong with a form as a whole: nothing where one of its fields says it. */
export function FormFault({ fault, fields }: { fault: Fault | null; fields: readonly string[] }) {
  if (!fault || fields.some((path) => fault.field(path))) return null
  return (
    <p role="alert" className="text-ember">
      {fault.message}
    </p>
  )
}
