import { useRef, useState } from 'react'
import { sheetAddresses } from '../../contract/seats.ts'
import { call, faultOf } from '../data/call.ts'
import { Button } from '../kit/Button.tsx'
import { part } from '../kit/part.tsx'
import { toast } from '../kit/toast.ts'

const AddressesAsk = part(async () => (await import('../kit/AddressesAsk.tsx')).AddressesAsk)

/** Gives the addresses of some people of a sheet to copy: they are asked for when it is pressed. */
export function AddressesOf({
  sheet,
  people,
  of,
}: {
  sheet: string
  /** By their codes, in the order in which they are given. */
  people: readonly string[]
  /** Whose they are: “those without a group”. */
  of: string
}) {
  const [emails, setEmails] = useState<string[] | null>(null)
  const asking = useRef(false)
  const show = async () => {
    // The button keeps the focus while it is asked, so that it has it again when the list is closed.
    if (asking.current) return
    asking.current = true
    try {
      const all = new Map(
        (await call(sheetAddresses, { sheet })).people.map(({ code, email }) => [code, email]),
      )
      setEmails(people.flatMap((code) => all.get(code) ?? []))
    } catch (error) {
      toast.error(faultOf(error).message)
    } finally {
      asking.current = false
    }
  }
  return (
    <>
      <Button size="small" disabled={people.length === 0} onClick={() => void show()}>
        Copy addresses<span className="sr-only"> of {of}</span>
      </Button>
      {emails && <AddressesAsk of={of} emails={emails} onClose={() => setEmails(null)} />}
    </>
  )
}
