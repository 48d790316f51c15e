/** How readings bear on the estimates of a plan: the peak of what both say together, whether that is to be believed, and draws about it. */
import { chiSquareTail } from '@/core/inference/chi-square'
import { findPeak, proposalAbout, type Peak, type Proposal } from '@/core/inference/laplace'
import type { Reading } from '../service/readings'

/** Figures that readings should show with the inputs moved so many standard deviations, NaN where there is none; undefined without an answer. */
export type ShownBy = (scores: Float64Array) => Float64Array | undefined

export type ReadingFit = {
  /** readings that the plan has a place for */
  readonly compared: readonly Reading[]
  /** what each of them is off by with no input moved, in its own standard deviations */
  readonly apart: Float64Array
  readonly peak: Peak
  /** probability that readings of a car like this one stray as far, 0-1 */
  readonly chance: number
  readonly fits: boolean
  /** readings that the best of all cars like this one does not come near */
  readonly strange: readonly Reading[]
  readonly proposal: Proposal
}

/** Readings that come by less often than this fit nothing. */
const IMPROBABLE = 1e-3
/** Standard deviations of its instrument beyond which a reading is out of reach. */
const OUT_OF_REACH = 2

/** Undefined without readings that can be compared, and where the plan has no answer at all. */
export function fitReadings(readings: readonly Reading[], shown: ShownBy, inputs: number): ReadingFit | undefined {
  const middle = new Float64Array(inputs)
  const known = shown(middle)
  const used = readings.flatMap((_, k) => (known && !Number.isNaN(known[k]!) ? [k] : []))
  if (used.length === 0) return undefined
  const compared = used.map((k) => readings[k]!)
  const residuals = (scores: Float64Array) => {
    const figures = shown(scores)
    if (!figures) return undefined
    const off = Float64Array.from(used, (k) => (figures[k]! - readings[k]!.value) / readings[k]!.error)
    return off.some(Number.isNaN) ? undefined : off
  }
  const apart = residuals(middle)!.slice()
  const peak = findPeak(residuals, middle)
  if (!peak) return undefined
  const chance = chiSquareTail(peak.misfit, compared.length)
  const far = compared.filter((_, k) => Math.abs(peak.residuals[k]!) > OUT_OF_REACH)
  const fits = chance >= IMPROBABLE
  return {
    compared,
    apart,
    peak,
    chance,
    fits,
    strange: fits ? [] : far,
    proposal: proposalAbout(peak),
  }
}
