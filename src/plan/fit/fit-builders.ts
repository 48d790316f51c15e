/** What is done at Parts and Fit: a step ticked, a price or a drawer noted, a port looked at. */
import type { Build, FitNotes } from '../document/schema'
import type { EditBuilder } from '../edit/edit-builders'
import { difference } from '../edit/diff'
import { MOST_KEY, MOST_SAID } from './card'
import type { CardStep } from './steps/step'

const EMPTY: FitNotes = { ticks: [], stock: [], ends: [], pieces: undefined, estimate: undefined, brackets: undefined }
const noted = (build: Build, change: (fit: FitNotes) => FitNotes) =>
  difference(build, { ...build, fit: change(build.fit ?? EMPTY) })

/** Puts something in a list of things with ids in the place of what had its id; undefined takes it out. */
const put = <T extends { readonly id: string }>(list: readonly T[], id: string, value: T | undefined): T[] =>
  value === undefined
    ? list.filter((x) => x.id !== id)
    : list.some((x) => x.id === id)
      ? list.map((x) => (x.id === id ? value : x))
      : [...list, value]

/** @param at an ISO time; left out, the tick is taken off */
export const tickStep =
  (plan: string, step: Pick<CardStep, 'key' | 'says'>, at: string | undefined, seconds?: number): EditBuilder =>
  (build) =>
    noted(build, (fit) => {
      const id = `${plan} ${step.key}`
      const tick =
        at === undefined
          ? undefined
          : { id, plan, step: step.key.slice(0, MOST_KEY), says: step.says.slice(0, MOST_SAID), at, seconds }
      return { ...fit, ticks: put(fit.ticks, id, tick) }
    })

/** Notes the price of a line of the list, or that it is there already. */
export const noteStock =
  (key: string, change: Partial<Pick<FitNotes['stock'][number], 'price' | 'have'>>): EditBuilder =>
  (build) =>
    noted(build, (fit) => {
      const now = { id: key, price: undefined, have: undefined, ...fit.stock.find((s) => s.id === key), ...change }
      return { ...fit, stock: put(fit.stock, key, now.price === undefined && now.have === undefined ? undefined : now) }
    })

/** The form that a port turned out to have; undefined leaves it to what is usual. */
export const noteForm =
  (port: string, form: string | undefined): EditBuilder =>
  (build) =>
    noted(build, (fit) => ({ ...fit, ends: put(fit.ends, port, form === undefined ? undefined : { id: port, form }) }))

/** How the bracket of a can is bent, and of what sheet; undefined leaves it to what suits. */
export const setBracket =
  (can: string, change: Partial<Omit<NonNullable<FitNotes['brackets']>[number], 'id'>>): EditBuilder =>
  (build) =>
    noted(build, (fit) => {
      const brackets = fit.brackets ?? []
      const now = { id: can, shape: undefined, alloy: undefined, ...brackets.find((b) => b.id === can), ...change }
      return { ...fit, brackets: put(brackets, can, now) }
    })

/** What a customer's estimate is made with: rate, tax, hours, currency; undefined takes one out. */
export const setEstimate =
  (change: Partial<NonNullable<FitNotes['estimate']>>): EditBuilder =>
  (build) =>
    noted(build, (fit) => ({ ...fit, estimate: { ...fit.estimate, ...change } as FitNotes['estimate'] }))

/** The builder's own fittings, all of them. */
export const setOwnPieces =
  (pieces: FitNotes['pieces']): EditBuilder =>
  (build) =>
    noted(build, (fit) => ({ ...fit, pieces: pieces && pieces.length > 0 ? pieces : undefined }))
