/** Why a fault is likely or not, from its own figures: a sentence made from what was read and what it takes. */
import type { Range } from '@/core/range'
import type { Build } from '../document/schema'
import { lowered, unitFormatter, type UnitFormatter } from '../document/words'
import { observableName, type Evidence, type Observable } from './observables'
import { likeliestPoint, type WeighedHypothesis } from './fault-odds'

/** What was read of one thing, beside what the sound plan and the fault would show. */
export type ComparedReading = {
  readonly evidence: Evidence
  readonly sound: Range | undefined
  readonly shown: Range | undefined
}

const listed = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`
const first = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

/** A figure in words. */
export function evidenceText(say: UnitFormatter, o: Observable, value: number): string {
  if (o.kind === 'crankcase') return say.signed(value)
  if (o.kind === 'blowBy') return say.flow(value)
  if (o.kind === 'trim') return say.percent(value)
  return `${value.toPrecision(2)} times the usual catch`
}

/** What was read in words: a can that was as good as dry caught so much at most. */
export const evidenceFoundText = (say: UnitFormatter, { observable, value, atMost }: Evidence): string =>
  `${atMost ? 'at most ' : ''}${evidenceText(say, observable, value)}`

/** Whether what was read is in the range that would be shown; of a can that was as good as dry, whether so much or less would be. */
export const isWithinPredicted = (
  { value, atMost }: Pick<Evidence, 'value' | 'atMost'>,
  range: Range | undefined,
): boolean => range !== undefined && value >= range.low && (atMost === true || value <= range.high)

/** What readings say of a fault, and what it takes. */
export function reasonOf(build: Build, w: WeighedHypothesis, compared: readonly ComparedReading[]): string {
  const say = unitFormatter(build.units)
  const name = (c: ComparedReading) => lowered(observableName(build, c.evidence.observable))
  const comparable = compared.filter((c) => c.sound && c.shown)
  const usual = comparable.filter((c) => isWithinPredicted(c.evidence, c.sound))
  const odd = comparable.filter((c) => !isWithinPredicted(c.evidence, c.sound))
  const figures = (cs: readonly ComparedReading[]) =>
    listed(cs.map((c) => `${name(c)} (${evidenceFoundText(say, c.evidence)})`))
  const { fault } = w.hypothesis
  if (!fault) {
    if (comparable.length === 0) return 'Nothing was read yet: it stands as before.'
    return odd.length === 0
      ? `${first(listed(usual.map(name)))} read as a sound car like this one would.`
      : `A sound car like this one would not often read ${figures(odd)}.`
  }
  const explained = odd.filter((c) => isWithinPredicted(c.evidence, c.shown))
  const against = comparable.filter((c) => !isWithinPredicted(c.evidence, c.shown))
  const best = likeliestPoint(w)
  const { extent } = fault
  const takes = extent && best.point.extent !== undefined ? ` That takes ${extent.says(best.point.extent)}.` : ''
  const asAlways =
    usual.length > 0 ? `${first(listed(usual.map(name)))} read${usual.length === 1 ? 's' : ''} as always; only ` : ''
  const main =
    explained.length > 0
      ? `${first(`${asAlways}${figures(explained)}`)} stand${explained.length === 1 ? 's' : ''} out, as with this.`
      : ''
  const speaks =
    against.length > 0
      ? ` Against it ${against.length === 1 ? 'speaks' : 'speak'} ${listed(against.map((c) => `${name(c)}: ${evidenceFoundText(say, c.evidence)} where it would show ${evidenceText(say, c.evidence.observable, c.shown!.low)} to ${evidenceText(say, c.evidence.observable, c.shown!.high)}`))}.`
      : ''
  if (main === '' && speaks === '')
    return comparable.length === 0
      ? 'Nothing that was read bears on it.'
      : `It would change nothing that was read.${takes}`
  return `${main}${main === '' ? '' : takes}${speaks}`.trim()
}
