import { useMemo, useState } from 'react'
import { Navigate, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import type { RunView } from '../../../contract/seats.ts'
import { changeSheet } from '../../../contract/sheets.ts'
import { assignTutors, changeGroup } from '../../../contract/topics.ts'
import { tally } from '../../../core/tally.ts'
import { localTimeOf, sayInstant } from '../../../core/zone.ts'
import { call, faultOf } from '../../data/call.ts'
import { Frame } from '../../kit/Frame.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { SheetFrame } from '../SheetFrame.tsx'
import { GroupPanel } from './GroupPanel.tsx'
import { Requests } from './Requests.tsx'
import { SeatField, type Shown } from './SeatField.tsx'
import { TallyColumn } from './TallyColumn.tsx'
import { Tray } from './Tray.tsx'
import { useRunSheet } from './useRunSheet.ts'
import { WindowRuler } from './WindowRuler.tsx'

/** Run: watch a sheet fill. */
export function RunPage() {
  const { sheet: code = '' } = useParams()
  const { view, error, live, refetch } = useRunSheet(code)
  if (error?.code === 'not-allowed') return <Navigate replace to={`/sheets/${code}`} />
  if (!view) {
    return (
      <Frame title="">
        {error ? <Trouble fault={error} retry={refetch} /> : <Loading what="the seats" />}
      </Frame>
    )
  }
  /** Moves an end of the window, with a way back. */
  const moveEnd = async (end: 'opensAt' | 'closesAt', instant: string) => {
    const send = async (to: string) => {
      try {
        await call(changeSheet, { sheet: code }, { [end]: localTimeOf(to, view.course.zone) })
        return true
      } catch (error) {
        toast.error(faultOf(error).message, { duration: 8_000 })
        return false
      } finally {
        refetch()
      }
    }
    const before = view[end]
    if (!(await send(instant))) return
    toast(`It ${end === 'opensAt' ? 'opens' : 'closes'} ${sayInstant(instant, view.course.zone)} now.`, {
      duration: 10_000,
      ...(before && { action: { label: 'Undo', onClick: () => void send(before) } }),
    })
  }
  return (
    <SheetFrame
      fit
      sheet={view}
      note={
        live === 'reconnecting' && <output className="text-sun-ink">· connection lost, trying again</output>
      }
      aside={<WindowRuler sheet={view} seats={view.seats} {...(view.mayEdit && { onChange: moveEnd })} />}
    >
      {view.topics.length === 0 ? (
        <p className="m-auto p-10 text-center text-soft">
          There is nothing to watch yet: the sheet has no topics. Write them under Compose.
        </p>
      ) : (
        <Watch view={view} refetch={refetch} />
      )}
    </SheetFrame>
  )
}

function Watch({ view, refetch }: { view: RunView; refetch: () => void }) {
  const [params, setParams] = useSearchParams()
  const [shown, setShown] = useState<Shown>('pips')
  const standing = useMemo(() => tally(view), [view])
  const waiting =
    view.rules.fullGroups === 'line' ? new Set(view.groups.flatMap(({ line }) => line)).size : null
  const person = params.get('person')
  const topic = params.get('topic')
  const picked = params.get('group') ?? view.seats.find((seat) => seat.person === person)?.group ?? null
  const group = view.groups.find(({ code }) => code === picked)
  const assign = async (tutors: string[]) => {
    try {
      await call(assignTutors, { sheet: view.code }, { groups: [group?.code ?? ''], tutors })
      refetch()
    } catch (error) {
      toast.error(faultOf(error).message)
    }
  }
  const nameConvener = async (convener: string | null) => {
    try {
      await call(changeGroup, { sheet: view.code, group: group?.code ?? '' }, { convener })
      refetch()
    } catch (error) {
      toast.error(faultOf(error).message)
    }
  }
  const open = (code: string | null) => setParams(code === null ? {} : { group: code }, { replace: true })
  return (
    <>
      <div className="grid min-h-0 flex-1 grid-cols-[14.25rem_minmax(0,1fr)_auto] max-lg:grid-cols-1">
        <TallyColumn tally={standing} floors={view.groups.map(({ floor }) => floor)} waiting={waiting} />
        <SeatField
          view={view}
          taken={standing.taken}
          shown={shown}
          onShown={setShown}
          picked={picked}
          pointedTopic={topic}
          pointedPerson={person}
          onPick={open}
        />
        {group && (
          <GroupPanel
            view={view}
            group={group}
            mayEdit={view.mayEdit}
            onConvener={nameConvener}
            onTutors={assign}
            onClose={() => open(null)}
          />
        )}
      </div>
      {view.requests > 0 && <Requests view={view} onAnswered={refetch} />}
      <Tray view={view} tally={standing} pointed={person} />
    </>
  )
}
