/** Edit builders of the bay: each leaves lengths and bends of every routed line as the bay has them, in every plan. */
import type { Bay, Build, Line } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { EditBuilder } from '../edit/edit-builders'
import { difference } from '../edit/diff'
import { withLengths } from './lay'

export const EMPTY_BAY: Bay = { datum: 'Left strut top', spots: [], keepOuts: [], bonnet: [], mounts: undefined }

/** The build with another bay, its lines' lengths following. */
const inBay = (build: Build, bay: Bay): Build => ({
  ...build,
  bay,
  variants: build.variants.map((v) => withLengths(bay, v)),
})

/** Replaces the whole bay. */
export const setBay =
  (bay: Bay): EditBuilder =>
  (build) =>
    difference(build, inBay(build, bay))

/**
 * Other things in the bay, the rest as it is by then.
 *
 * @example
 * import { changeBay } from '@/plan/bay/bay-builders'
 * import { perform } from '@/plan/edit/edit-builders'
 * import { newBuild } from '@/plan/schools/new-build'
 *
 * const build = newBuild({ name: 'Street four', engineClass: 'i4-turbo', use: 'street', ambientC: 10, units: 'metric' })
 * const changed = perform(build, changeBay({ middleMm: 0 }))
 * console.log(changed.ok && changed.value.bay.middleMm) // 0
 */
export const changeBay =
  (to: Partial<Bay>): EditBuilder =>
  (build) =>
    setBay({ ...(build.bay ?? EMPTY_BAY), ...to })(build)

type SpotPlace = { readonly forwardMm: number; readonly leftMm: number; readonly upMm: number }
/** Puts a port, part or can's floor somewhere, measured with the tape. */
export const setSpot =
  (id: string, place: SpotPlace): EditBuilder =>
  (build) => {
    const bay = build.bay ?? EMPTY_BAY
    const spots = bay.spots.some((s) => s.id === id)
      ? bay.spots.map((s) => (s.id === id ? { ...s, ...place, measured: true } : s))
      : [...bay.spots, { id, ...place, measured: true, points: undefined, turnDeg: undefined }]
    return difference(build, inBay(build, { ...bay, spots }))
  }

/** Which way a port points, or how far the lid of a can is turned; undefined leaves it open. */
export const setPointing =
  (id: string, to: Partial<Pick<Bay['spots'][number], 'points' | 'turnDeg'>>): EditBuilder =>
  (build) => {
    const bay = build.bay ?? EMPTY_BAY
    return difference(build, inBay(build, { ...bay, spots: bay.spots.map((s) => (s.id === id ? { ...s, ...to } : s)) }))
  }

/** The build with a line of its active plan led by other points, and the other lines of it as the bay has them then. */
export function withWay(build: Build, lineId: string, way: Line['way']): Build {
  const active = activeVariant(build)
  const lines = active.lines.map((l) => (l.id === lineId ? { ...l, way: way && way.length > 0 ? way : undefined } : l))
  return {
    ...build,
    variants: build.variants.map((v) => (v === active ? withLengths(build.bay, { ...v, lines }) : v)),
  }
}

/** Leads a line of the active plan by other points. */
export const setWay =
  (lineId: string, way: Line['way']): EditBuilder =>
  (build) =>
    difference(build, withWay(build, lineId, way))

/** Makes a build what another one is: what a search has laid out. */
export const replaceBuild =
  (to: Build): EditBuilder =>
  (build) =>
    difference(build, to)
