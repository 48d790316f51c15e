'use client'
/** Which plan is on the car: the mark beside a plan's name, and a workspace of that plan for what is of the car whatever plan is shown. */
import { useEffect, useState, type ReactNode } from 'react'
import { createStore } from 'zustand'
import { analyseWithoutFixes } from '@/plan/analyse'
import { asOnCar, fittedPlan } from '@/plan/document/fitted-plan'
import type { Build, Variant } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { editsOf, setField, showPlan } from '@/plan/edit/edit-builders'
import { planName } from '@/plan/schools/schools'
import { Turns } from './jobs/turns'
import { useWorkspace, useWorkspaceStore, WorkspaceContext, type WorkspaceStore } from './store'

/** How a plan stands to the car; nothing while all are ideas. */
export const carMark = (plan: Variant, fitted: Variant | undefined): 'on the car' | 'an idea' | undefined =>
  fitted && (plan.id === fitted.id ? 'on the car' : 'an idea')

/** Says of the plan shown that it is an idea, and how it gets onto the car. */
export function IdeaNote({ about }: { about: string }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const fitted = fittedPlan(build)
  const shown = activeVariant(build)
  const name = planName(shown, build.engine)
  const put = () => act(setField(['fitted'], shown.id), `Plan ${name} is on the car`)
  if (fitted?.id === shown.id) return null
  return (
    <p className="no-print my-2 flex flex-wrap items-baseline gap-x-4 border-l-4 border-blue px-2 py-1">
      <span>{fitted ? `${name} is an idea; on the car is ${planName(fitted, build.engine)}. ${about}` : about}</span>
      <button type="button" className="link-button" onClick={put}>
        {name} is on the car now
      </button>
      {fitted && (
        <button
          type="button"
          className="link-button"
          onClick={() => act(showPlan(fitted.id), `Plan ${fitted.name} shown`)}
        >
          Show the one on the car
        </button>
      )}
    </p>
  )
}

type State = ReturnType<WorkspaceStore['getState']>

/** No failure is tried on the car, and what is chosen in another plan is not in this one. */
const NOTHING_CHOSEN = { whatIf: undefined, selected: undefined } as const

function onCar({ build, today, evaluator }: State): Pick<State, 'build' | 'analysis'> {
  const seen = asOnCar(build)
  return { build: seen, analysis: analyseWithoutFixes(seen, today, evaluator) }
}

/** A workspace of the plan on the car: it shows that plan, and its edits are made in the one it is of. */
function carStore(base: WorkspaceStore): WorkspaceStore {
  return createStore<State>()((set, get) => ({
    ...base.getState(),
    ...onCar(base.getState()),
    ...NOTHING_CHOSEN,
    act: (builders, name, burst) => {
      const edits = editsOf(get().build, ...(typeof builders === 'function' ? [builders] : builders))
      if (edits.ok) return base.getState().edit(edits.value, name, burst)
      base.getState().refuse(edits.reason)
      return false
    },
    takeWhole: (of, analysis) => {
      if (get().build === of) set({ analysis })
    },
  }))
}

/** Keeps a workspace of the plan on the car to the one it is of, worked out again where the build has changed. */
function useCarStore(base: WorkspaceStore): WorkspaceStore {
  const [car] = useState(() => carStore(base))
  useEffect(() => {
    let seen: Build | undefined
    const follow = (s: State) => {
      const { act, takeWhole, build, analysis } = car.getState()
      const known = s.build === seen ? { build, analysis } : onCar(s)
      seen = s.build
      car.setState({ ...s, ...NOTHING_CHOSEN, ...known, act, takeWhole })
    }
    follow(base.getState())
    return base.subscribe(follow)
  }, [base, car])
  return car
}

/**
 * What is of the car is shown of the plan on it, whatever plan is shown elsewhere.
 * @param about said of it where that is another
 */
export function OfTheCar({ about, children }: { about: string; children: ReactNode }) {
  const isIdea = useWorkspace((s) => asOnCar(s.build) !== s.build)
  if (!isIdea) return children
  return (
    <>
      <div className="px-4">
        <IdeaNote about={about} />
      </div>
      <ShownOfTheCar>{children}</ShownOfTheCar>
    </>
  )
}

function ShownOfTheCar({ children }: { children: ReactNode }) {
  const car = useCarStore(useWorkspaceStore())
  return (
    <WorkspaceContext value={car}>
      <Turns />
      {children}
    </WorkspaceContext>
  )
}
