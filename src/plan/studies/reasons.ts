/** Why one plan is better than another, in words made of the figures of both. */
import { MEANS_NAMES } from '../catalogue/effort'
import { type UnitFormatter, atState, joinWords, lowered } from '../document/words'
import { crankcaseText } from '../model/limits'
import { MARGIN, MEASURE_PARTS, type MeasurePart, type PlanMeasure } from './measure-parts'

/** A plan with the name it goes by in a sentence. */
export type Measured = { readonly name: string; readonly measure: PlanMeasure }

/** Whether neither is better by more than the margin. */
export const equals = (a: PlanMeasure, b: PlanMeasure): boolean => Math.abs(a.total - b.total) <= MARGIN

/** Parts of the measure in which `a` is better than `b`, most first, with the points. */
export const gains = (a: PlanMeasure, b: PlanMeasure): readonly { readonly part: MeasurePart; readonly by: number }[] =>
  MEASURE_PARTS.map((part) => ({ part, by: b.points[part] - a.points[part] }))
    .filter((g) => g.by > 0.05)
    .toSorted((x, y) => y.by - x.by)

const hours = (h: number) => `${h < 10 ? Number(h.toPrecision(2)) : Math.round(h)} h`
const times = (n: number) => (n < 0.5 ? 'hardly ever' : n < 1.5 ? 'once a year' : `${Math.round(n)} times a year`)

/** What a part of the measure is for each of two plans: "oil to the intake 3 ml per 1 000 km, against 12 ml". */
export function reasonText(part: MeasurePart, a: Measured, b: Measured, say: UnitFormatter): string {
  const [x, y] = [a.measure.facts, b.measure.facts]
  const against = `of ${lowered(b.name)}`
  switch (part) {
    case 'oil':
      return `oil to the intake ${x.intakeOil > 0 ? say.perDistance(x.intakeOil) : 'none'}, against ${say.perDistance(y.intakeOil)} ${against}`
    case 'crankcase': {
      const text = (f: typeof x) => (f.highest === undefined ? 'no answer' : crankcaseText(say, f.highest))
      if (text(x) !== text(y))
        return `crankcase at the bad end ${text(x)}${x.worstState ? ` ${atState(x.worstState)}` : ''}, against ${text(y)} ${against}`
      const low = (f: typeof x) => (f.lowest === undefined ? 'no answer' : crankcaseText(say, f.lowest))
      return `crankcase sucked to ${low(x)} at most, against ${low(y)} ${against}`
    }
    case 'law':
      return x.vented <= 0
        ? `sealed, as the road asks; ${lowered(b.name)} lets ${share(y.vented)} of its gas into the open`
        : `${share(x.vented)} of its gas into the open, against ${share(y.vented)} ${against}`
    case 'looks':
      return `looked after ${x.looks > 0 ? times(x.looks) : 'never'}, ${lowered(b.name)} ${times(y.looks)}`
    case 'work':
      return `${x.effort.hours > 0 ? `about ${hours(x.effort.hours)}` : 'no work'} at the bench, against ${hours(y.effort.hours)} ${against} (estimates)`
    case 'means': {
      const more = [...y.missing, ...y.refused].filter((m) => ![...x.missing, ...x.refused].includes(m))
      return `no ${joinWords(more.map((m) => MEANS_NAMES[m].doing))}, which ${lowered(b.name)} asks for`
    }
    case 'price':
      return `${x.effort.price > 0 ? `some ${money(x.effort.price)} of parts` : 'nothing to buy'}, against ${money(y.effort.price)} ${against} (estimates)`
    case 'failure':
      return `what fails worst leaves ${fails(x, say)}, with ${lowered(b.name)} ${fails(y, say)}`
    case 'findings':
      return `${open(x)} to mend, against ${open(y)} ${against}`
  }
}
/** "the crankcase at +12 kPa and 40 ml per 1 000 km to the intake (breather line collapsed)" */
function fails({ worstFailure: f }: PlanMeasure['facts'], say: UnitFormatter): string {
  if (!f) return 'all as it is'
  const crankcase =
    f.highest === undefined ? 'no way out for the gas' : `the crankcase at ${crankcaseText(say, f.highest)}`
  return `${crankcase} and ${say.perDistance(f.intakeOil)} to the intake (${lowered(f.name)})`
}
const share = (v: number) => (v < 0.01 ? 'under 1 %' : `${Math.round(100 * v)} %`)
const money = (v: number) => String(v < 100 ? Math.round(v / 5) * 5 : Math.round(v / 10) * 10)
const open = ({ stops, fixes }: PlanMeasure['facts']) => (stops + fixes === 0 ? 'nothing' : String(stops + fixes))

/** Why `a` stands before `b`: what decides; equals say so. */
export function because(a: Measured, b: Measured, say: UnitFormatter): string {
  const [first] = gains(a.measure, b.measure)
  if (equals(a.measure, b.measure)) {
    if (!first) return `as good as ${lowered(b.name)}`
    return `as good as ${lowered(b.name)}: ${reasonText(first.part, a, b, say)}`
  }
  return first ? reasonText(first.part, a, b, say) : `no worse than ${lowered(b.name)} in anything`
}
