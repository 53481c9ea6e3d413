import {
  Component,
  type ComponentType,
  type FunctionComponent,
  lazy,
  type ReactNode,
  Suspense,
  useState,
} from 'react'
import { loadAnew } from '../data/loadAnew.ts'
import { loaded } from '../data/loaded.ts'
import { Button } from './Button.tsx'

/**
 * A part of a page whose code is loaded when it is first wanted. What does not arrive is asked for once more; then
 * the part says so in its place and offers to try again, and the rest of the page goes on.
 * @param waiting stands there until it has come
 */
export function part<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  waiting: ReactNode | ((props: Props) => ReactNode) = null,
): FunctionComponent<Props> {
  const begin = () => lazy(async () => ({ default: await loaded(load) }))
  let Loaded = begin()
  // Made once for each part, where its module is read.
  // biome-ignore lint/correctness/noComponentHookFactories: this is where the component is made
  return function Part(props: Props) {
    const [, setTries] = useState(0)
    const again = () => {
      Loaded = begin()
      setTries((n) => n + 1)
      // Some browsers remember that code did not arrive: then only a load anew asks for it.
      load().catch(() => loadAnew('asked'))
    }
    return (
      <Boundary onAgain={again}>
        <Suspense fallback={typeof waiting === 'function' ? waiting(props) : waiting}>
          <Loaded {...props} />
        </Suspense>
      </Boundary>
    )
  }
}

/** Keeps what breaks inside from taking the page with it. */
class Boundary extends Component<{ onAgain: () => void; children: ReactNode }, { broke: boolean }> {
  override state = { broke: false }
  static getDerivedStateFromError() {
    return { broke: true }
  }
  override render() {
    if (!this.state.broke) return this.props.children
    return (
      <span role="alert" className="inline-flex flex-wrap items-center gap-2 p-2 text-soft">
        This part of the page did not load.
        <Button
          size="small"
          onClick={() => {
            this.props.onAgain()
            this.setState({ broke: false })
          }}
        >
          Try again
        </Button>
        <Button size="small" look="quiet" onClick={() => location.reload()}>
          Load the page anew
        </Button>
      </span>
    )
  }
}
