import { useEffect, useState } from 'react'
import { deskPlace } from '../../../contract/marks.ts'
import { call } from '../../data/call.ts'

/** Milliseconds between two times at which the desk says where it is. */
const EVERY = 4_000

/** Who else marks this task just now, and where in the pile; says at the same time where oneself is. */
export function useOthers(
  sheet: string,
  task: string,
  owner: string | undefined,
): readonly { name: string; owner: string }[] {
  const [others, setOthers] = useState<readonly { name: string; owner: string }[]>([])
  useEffect(() => {
    if (owner === undefined) return
    let gone = false
    const say = () => {
      if (document.hidden) return
      call(deskPlace, { sheet, task }, { owner }).then(
        (answer) => !gone && setOthers(answer.others),
        () => {},
      )
    }
    say()
    const timer = setInterval(say, EVERY)
    return () => {
      gone = true
      clearInterval(timer)
    }
  }, [sheet, task, owner])
  return others
}
