'use client'
/** Figures that readings and recordings have put into the plan, to be taken out again. */
import { dropLearned } from '@/plan/model/learned'
import { useWorkspace } from '../store'

export function TakenIn() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const trying = useWorkspace((s) => s.whatIf !== undefined)
  const back = dropLearned(build)
  if (back.length === 0 || trying) return null
  const count = back.length - 1
  return (
    <p className="mt-1">
      {count === 1 ? 'One figure of the plan stands' : `${count} figures of the plan stand`} as readings had them.{' '}
      <button
        type="button"
        className="link-button"
        onClick={() => act([() => dropLearned(build)], 'Figures as they were before the readings')}
      >
        Take them out again
      </button>
    </p>
  )
}
