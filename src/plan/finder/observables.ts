/** What is read of a car to find its fault: crankcase pressure, fuel trim, blow-by, what a can catches; on scales on which faults add up. */
import type { StateId } from '@/core/engine/states'
import { WET_WALL_M3 } from '@/core/service/prior'
import { toSi } from '@/core/units/units'
import type { Build, FaultCase } from '../document/schema'
import { STATE_NAMES } from '../document/words'
import { activeVariant } from '../edit/edit'
import type { Worked } from '../model/results'
import { planOf } from '../service/can-log'
import { gaugeError, quantityOf, valueOf } from '../service/readings'

export type Observable =
  | { readonly kind: 'crankcase'; readonly state: StateId }
  | { readonly kind: 'blowBy'; readonly state: StateId }
  | { readonly kind: 'trim' }
  /** what a can catches a distance, over what the sound plan would */
  | { readonly kind: 'catch'; readonly can: string }

/** By what an observable is known: the same of two that are one. */
export const observableKey = (o: Observable): string =>
  'state' in o ? `${o.kind} ${o.state}` : o.kind === 'catch' ? `catch ${o.can}` : o.kind

/** Where an observable stands among those of a plan; -1 where it is none of them. */
export const observableRow = (all: readonly Observable[], o: Observable): number =>
  all.findIndex((x) => observableKey(x) === observableKey(o))

/** Pressures below this are told apart by their difference, above it by their ratio, Pa. */
const LINEAR_PA = 600
/** A trim beyond this is as far off as can be, shares of 1. */
const MOST_TRIM = 0.5

/** A can that catches less than this share of what it would is as good as empty. */
export const LEAST_CATCH_RATIO = 0.02

/** A figure on the scale on which it is judged: of a pressure about its logarithm, of a flow and a catch that itself. */
export const toScale = ({ kind }: Observable, value: number): number =>
  kind === 'crankcase'
    ? Math.asinh(value / LINEAR_PA)
    : kind === 'trim'
      ? Math.max(-MOST_TRIM, Math.min(MOST_TRIM, value))
      : Math.log(Math.max(kind === 'catch' ? LEAST_CATCH_RATIO : 1e-9, value))
/** The figure again: Pa, kg/s, a share of 1, a ratio. */
export const fromScale = ({ kind }: Observable, scaled: number): number =>
  kind === 'crankcase' ? LINEAR_PA * Math.sinh(scaled) : kind === 'trim' ? scaled : Math.exp(scaled)
/** A small error of a figure on that scale. */
export const errorOnScale = ({ kind }: Observable, value: number, error: number): number =>
  kind === 'crankcase'
    ? error / Math.hypot(value, LINEAR_PA)
    : kind === 'trim'
      ? error
      : error / Math.max(kind === 'catch' ? LEAST_CATCH_RATIO : 1e-9, Math.abs(value))

/** How much one filling strays from the next on its own, of its logarithm (methods 7). */
export const FILLING_SCATTER = 0.25

export type Evidence = {
  readonly observable: Observable
  /** as read: Pa gauge, kg/s, a share of 1, times what the sound plan would catch */
  readonly value: number
  readonly scaled: number
  /** one standard deviation on that scale */
  readonly error: number
  readonly date: string
  /** read before the trouble began: it says how this car was while it was sound */
  readonly before: boolean
  /** a can that was as good as dry: it caught so much or less */
  readonly atMost?: true
}

/** What was read of a thing, with its error, on its own scale: of now, unless it is said otherwise. @param date where it is known */
export const readingEvidence = (observable: Observable, value: number, error: number, date = ''): Evidence => ({
  observable,
  value,
  scaled: toScale(observable, value),
  error: errorOnScale(observable, value, error),
  date,
  before: false,
})

/** What was read with the active plan on the engine. */
function readingsIn(build: Build): readonly Evidence[] {
  return build.log
    .filter((e) => e.kind === 'reading' && e.reading && planOf(build, e) === build.active)
    .toSorted((a, b) => a.odometerKm - b.odometerKm || a.date.localeCompare(b.date))
    .flatMap((e) => {
      const { state } = e.reading!
      const quantity = quantityOf(e.reading!)
      const { value, error } = valueOf(build, e.reading!)
      if (quantity === 'trim') return state === 'idle' ? [readingEvidence({ kind: 'trim' }, value, error, e.date)] : []
      if (quantity === 'crankcase' || quantity === 'blowBy')
        return [readingEvidence({ kind: quantity, state }, value, error, e.date)]
      return []
    })
}

/** Where so much was predicted, a can that is found dry says something, m3. */
const MUCH_M3 = 5 * WET_WALL_M3
/** What each can was found to have caught, over what the plan would have. */
const catchesIn = ({ cans }: Pick<Worked, 'cans'>): readonly Evidence[] =>
  cans.flatMap((c) =>
    c.history.flatMap((h) => {
      const [found, predicted] = [h.found.oil + h.found.water, h.predicted.oil + h.predicted.water]
      // a film tells nothing where a film was predicted
      const film = WET_WALL_M3 / 2
      if (!(predicted > 0) || (found < film && predicted < MUCH_M3)) return []
      const ratio = Math.max(found, film) / predicted
      const scatter = found < film ? 1 : FILLING_SCATTER
      const read = readingEvidence({ kind: 'catch', can: c.part }, ratio, scatter * ratio, h.date)
      return [found < film ? { ...read, atMost: true } : read]
    }),
  )

/**
 * All that a build's log says, oldest first of each thing.
 * @param since day from which on the trouble is there; without one the last of each thing is of now, and all before it of before
 */
export function evidenceIn(build: Build, worked: Pick<Worked, 'cans'>, since: string | undefined): readonly Evidence[] {
  const all = [...readingsIn(build), ...catchesIn(worked)]
  return all.map((e, k) => {
    const key = observableKey(e.observable)
    const isLast = all.findLastIndex((x) => observableKey(x.observable) === key) === k
    return { ...e, before: since === undefined ? !isLast : e.date < since }
  })
}

/** What a recording says, at the points at which it was driven; in those states nothing else is compared. */
export function withRecorded(
  evidence: readonly Evidence[],
  recorded: NonNullable<FaultCase['recorded']>,
): readonly Evidence[] {
  const states = new Set<StateId>(recorded.map((r) => r.id))
  const others = evidence.filter((e) => !('state' in e.observable && states.has(e.observable.state)))
  const reading = (id: StateId, kpa: number, before: boolean): Evidence => {
    const value = toSi('pressure', kpa, 'kPa')
    return { ...readingEvidence({ kind: 'crankcase', state: id }, value, gaugeError(value)), before }
  }
  return [
    ...others,
    ...recorded.flatMap((r) => [
      ...(r.beforeKpa === undefined ? [] : [reading(r.id, r.beforeKpa, true)]),
      reading(r.id, r.kpa, false),
    ]),
  ]
}

/** The build with its states where a recording drove them. */
export const atRecorded = (build: Build, recorded: NonNullable<FaultCase['recorded']>): Build => ({
  ...build,
  engine: {
    ...build.engine,
    overrides: recorded.reduce(
      (all, { id, rpm, manifoldKpa }) => ({ ...all, [id]: { ...all[id], rpm, manifoldKpa } }),
      build.engine.overrides,
    ),
  },
})

/** What can be read of a plan: each state's crankcase, the trim where there is a manifold, the catch of each can. */
export function observablesOf(build: Build, states: readonly StateId[]): readonly Observable[] {
  const { parts } = activeVariant(build)
  return [
    ...states.map((state): Observable => ({ kind: 'crankcase', state })),
    ...(parts.some((p) => p.kind === 'manifold') ? [{ kind: 'trim' } as const] : []),
    ...parts.flatMap((p): Observable[] => (p.kind === 'can' ? [{ kind: 'catch', can: p.id }] : [])),
  ]
}

/** An observable as a person names it. */
export function observableName(build: Build, o: Observable): string {
  if (o.kind === 'crankcase') return STATE_NAMES[o.state]
  if (o.kind === 'blowBy') return `Blow-by, ${STATE_NAMES[o.state].toLowerCase()}`
  if (o.kind === 'trim') return 'Idle trim'
  return activeVariant(build).parts.find((p) => p.id === o.can)?.name ?? 'Can'
}
