/** Bays of the demo builds: laid out once by `./ivent docs bays`, so that no start has to search. */
import { withSpots } from '@/plan/bay/loose-parts'
import { bayFor, readyBay } from '@/plan/catalogue/bays'
import type { Point3 } from '@/core/drain/profile'
import type { Bay, Build, Line } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { withLengths } from '@/plan/bay/lay'
import bays from './demo-bays.json'

export type DemoBay = {
  readonly spots: readonly Pick<Bay['spots'][number], 'id' | 'forwardMm' | 'leftMm' | 'upMm'>[]
  readonly ways: Readonly<Record<string, Line['way']>>
}
const BAYS: Readonly<Record<string, DemoBay | undefined>> = bays

/** What the tape has not been held to in a demo: one end, so that the sheet has something left to ask. */
const NOT_MEASURED = 'inlet.breather'

/** A demo build in its ready bay as it was laid out, its ends measured. Throws where the file does not know it: it is made from these builds. */
export function inDemoBay(build: Build): Build {
  const laid = BAYS[build.name]
  if (!laid) throw new Error(`demo-bays.json has no bay of ${build.name}: ./ivent docs bays writes it`)
  const variant = activeVariant(build)
  const bay = readyBay(build, variant, bayFor(build.engine))
  const spots = new Map(
    laid.spots.map((s): [string, Point3] => [s.id, [s.forwardMm / 1000, s.leftMm / 1000, s.upMm / 1000]]),
  )
  const placed = withSpots({ ...build, bay }, spots).bay!
  const measured = { ...placed, spots: placed.spots.map((s) => ({ ...s, measured: s.id !== NOT_MEASURED })) }
  const led = { ...variant, lines: variant.lines.map((l) => ({ ...l, way: laid.ways[l.id] })) }
  return {
    ...build,
    bay: measured,
    variants: build.variants.map((v) => withLengths(measured, v === variant ? led : v)),
  }
}
