/** How long the rest of a job card takes, as a range: by what earlier steps took, else by what such work takes. */
import type { Build } from '../document/schema'

export type CardHours = { readonly low: number; readonly high: number; readonly fromTicks: boolean }

/** A tick within so many seconds of the last was of work done before it, or of a slip. */
const LEAST_SECONDS = 30
/** So few ticks say nothing of how this builder works. */
const FEW_TICKS = 5
/** Four in five of a normal law, in standard deviations. */
const FOUR_IN_FIVE = 1.28
/** What a job takes against what it usually takes, four in five (estimate). */
const [QUICK, SLOW] = [0.7, 1.8]

/**
 * Hours, four cases in five, for `left` steps of `all`. The seconds that ticks took, of any plan of this build, are taken as draws of what
 * a step takes: their mean may be off by its own error, and what is left scatters about it.
 * @example
 * import { hoursOfTicks } from '@/plan/fit/card-hours'
 *
 * console.log(hoursOfTicks([600, 600, 600, 600, 600], 6).low) // 1
 */
export function hoursOfTicks(
  seconds: readonly number[],
  left: number,
): { readonly low: number; readonly high: number } {
  const mean = seconds.reduce((s, x) => s + x, 0) / seconds.length
  const variance = seconds.reduce((s, x) => s + (x - mean) ** 2, 0) / (seconds.length - 1)
  const half = FOUR_IN_FIVE * Math.sqrt(variance * (left + left ** 2 / seconds.length))
  const hours = (s: number) => s / 3600
  return { low: hours(Math.max(0.25 * mean * left, mean * left - half)), high: hours(mean * left + half) }
}

export type StepsLeft = {
  readonly left: number
  readonly all: number
  /** of the whole plan, as such work usually takes */ readonly usualHours: number
}
/** Hours for the steps that are not ticked yet; `undefined` when none is left. */
export function cardHours(build: Build, { left, all, usualHours }: StepsLeft): CardHours | undefined {
  if (left === 0) return undefined
  const seconds = (build.fit?.ticks ?? []).flatMap((t) =>
    t.seconds !== undefined && t.seconds >= LEAST_SECONDS ? [t.seconds] : [],
  )
  if (seconds.length >= FEW_TICKS) return { ...hoursOfTicks(seconds, left), fromTicks: true }
  const usual = usualHours * (left / Math.max(1, all))
  return { low: QUICK * usual, high: SLOW * usual, fromTicks: false }
}
