/** What is done in the bay: each deed leaves lengths and bends of every routed line as the bay has them, in every plan. */
import type { Bay, Build, Line } from '../document/schema'
import { activeVariant } from '../edit/edit'
import type { Deed } from '../edit/deeds'
import { difference } from '../edit/diff'
import { withLengths } from './geometry'

export const EMPTY_BAY: Bay = { datum: 'Left strut top', spots: [], keepOuts: [], bonnet: [] }

/** The build with another bay, its lines' lengths following. */
const inBay = (build: Build, bay: Bay): Build => ({
  ...build,
  bay,
  variants: build.variants.map((v) => withLengths(bay, v)),
})

export const setBay =
  (bay: Bay): Deed =>
  (build) =>
    difference(build, inBay(build, bay))

type Place = { readonly forwardMm: number; readonly leftMm: number; readonly upMm: number }
/** Puts a port, part or can's floor somewhere, measured with the tape. */
export const setSpot =
  (id: string, place: Place): Deed =>
  (build) => {
    const bay = build.bay ?? EMPTY_BAY
    const spot = { id, ...place, measured: true }
    const spots = bay.spots.some((s) => s.id === id)
      ? bay.spots.map((s) => (s.id === id ? spot : s))
      : [...bay.spots, spot]
    return difference(build, inBay(build, { ...bay, spots }))
  }

/** Leads a line of the active plan by other points. */
export const setWay =
  (lineId: string, way: Line['way']): Deed =>
  (build) => {
    const active = activeVariant(build)
    const lines = active.lines.map((l) =>
      l.id === lineId ? { ...l, way: way && way.length > 0 ? way : undefined } : l,
    )
    const variants = build.variants.map((v) => (v === active ? withLengths(build.bay, { ...v, lines }) : v))
    return difference(build, { ...build, variants })
  }
