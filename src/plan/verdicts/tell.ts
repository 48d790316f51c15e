/** What the rules share: how figures are told, and small ways to look at a case. */
import { quantityText } from '@/core/units/format'
import type { StateId } from '@/core/engine/states'
import type { Line } from '../document/schema'
import { STATE_NAMES, type Case, type Verdict } from './verdict'

export type Finding = Omit<Verdict, 'rule'>

export const say = (c: Case) => ({
  pressure: (pa: number) => quantityText(pa, 'pressure', c.build.units, 2),
  flow: (kg: number) => quantityText(kg, 'gasFlow', c.build.units, 3),
  distance: (m: number) => quantityText(m, 'distance', c.build.units, 3),
  volume: (m3: number) => quantityText(m3, 'volume', c.build.units, 3),
  length: (mm: number) => quantityText(mm / 1000, 'length', c.build.units, 3),
  speed: (v: number) => quantityText(v, 'speed', c.build.units, 3),
})

export const inState = (id: StateId) => `in ${STATE_NAMES[id].toLowerCase()}`
export const atState = (id: StateId) =>
  id === 'idle' || id === 'cruise' || id === 'spool' ? `at ${STATE_NAMES[id].toLowerCase()}` : `${inState(id)}`
export const worst = <T>(items: readonly T[], of: (t: T) => number): T | undefined =>
  items.toSorted((a, b) => of(b) - of(a))[0]
export const hosesOf = (c: Case): Line[] => c.variant.lines.filter((l) => l.kind === 'hose')
export const signed = (c: Case, pa: number) => (pa > 0 ? '+' : '') + say(c).pressure(pa)
