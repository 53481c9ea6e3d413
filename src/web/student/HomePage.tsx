import { useMe } from '../access/me.tsx'
import { Frame } from '../kit/Frame.tsx'
import { StudentSheets } from './StudentSheets.tsx'

/** A student's first page. */
export function HomePage() {
  const me = useMe()
  return (
    <Frame title="Your sheets">
      <div className="mx-auto flex w-full max-w-2xl flex-col gap-6 px-4 py-6">
        <h1 className="text-2xl">Hello, {me.name}</h1>
        <StudentSheets />
      </div>
    </Frame>
  )
}
