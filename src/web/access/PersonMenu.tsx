import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { signOut } from '../../contract/session.ts'
import { initials } from '../../core/names.ts'
import { call, faultOf } from '../data/call.ts'
import { drafts } from '../data/useDraft.ts'
import { chooseScheme, chosenScheme, type Scheme } from '../kit/scheme.ts'
import { toast } from '../kit/toast.ts'
import { useDemo, useMe } from './me.tsx'
import { useEndVisit } from './useEndVisit.ts'

const SCHEMES: { value: Scheme; label: string }[] = [
  { value: 'system', label: 'Light or dark as the system' },
  { value: 'light', label: 'Always light' },
  { value: 'dark', label: 'Always dark' },
]
const ITEM =
  'flex min-h-9 items-center rounded-field px-2.5 outline-none select-none data-[highlighted]:bg-seat-soft data-[state=checked]:font-semibold'

/** Who is signed in, how the pages look, and the way out. */
export function PersonMenu() {
  const me = useMe()
  const demo = useDemo()
  const navigate = useNavigate()
  const endVisit = useEndVisit()
  const [scheme, setScheme] = useState(chosenScheme)
  const [warned, setWarned] = useState(false)

  const leave = async () => {
    const kept = await drafts.flushEvery()
    if (!kept && !warned) {
      setWarned(true)
      toast.error('Something you wrote is not saved yet, and would be lost. Sign out again to leave it.')
      return
    }
    try {
      await call(signOut, {})
      await endVisit()
    } catch (error) {
      toast.error(faultOf(error).message)
    }
  }

  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="grid size-9 place-items-center rounded-field bg-seat text-xs font-bold text-on-seat max-sm:size-11">
        <span aria-hidden="true">{initials(me.name)}</span>
        <span className="sr-only">Menu of {me.name}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-50 min-w-64 rounded-card border border-line bg-surface p-1.5 shadow-lg"
        >
          <DropdownMenu.Label className="px-2.5 py-1.5">
            <div className="font-semibold">{me.name}</div>
            <div className="text-sm text-soft">{me.email}</div>
          </DropdownMenu.Label>
          <DropdownMenu.Separator className="my-1 border-t tear" />
          <DropdownMenu.RadioGroup
            value={scheme}
            onValueChange={(value) => {
              chooseScheme(value as Scheme)
              setScheme(value as Scheme)
            }}
          >
            {SCHEMES.map(({ value, label }) => (
              <DropdownMenu.RadioItem key={value} value={value} className={ITEM}>
                <span
                  className={`mr-2 h-3 w-2 rounded-[2px] border border-open ${scheme === value ? 'bg-seat' : ''}`}
                />
                {label}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 border-t tear" />
          {demo && (
            <>
              <DropdownMenu.Item className={ITEM} onSelect={() => navigate('/door')}>
                Enter as somebody else
              </DropdownMenu.Item>
              <DropdownMenu.Item className={ITEM} onSelect={() => navigate('/outbox')}>
                Outbox
              </DropdownMenu.Item>
            </>
          )}
          <DropdownMenu.Item className={ITEM} onSelect={() => navigate('/sign-ins')}>
            Where you are signed in
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => void leave()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
