/** Whether a can is worth it: what the stock circuit sends to the intake, what washes the valves, what a can would keep. */
import type { Analysis } from '../analyse'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { capital, lowered, unitFormatter, type UnitFormatter } from '../document/words'
import { intakeOil } from '../model/duty'
import type { Measured } from './reasons'

export type Worth = {
  readonly answer: 'much' | 'some' | 'little'
  /** unwashed oil that the plan which keeps most of it keeps out, m3 a metre, 0 or more */
  readonly kept: number
  /** two sentences with numbers */
  readonly says: readonly [stock: string, kept: string]
}

/** Unwashed oil from which keeping it out is worth much, or something, m3 a metre (estimates: 7 and 5.5 ml in 1 000 km). */
const [LEAST_MUCH, LEAST_SOME] = [7e-12, 5.5e-12]

/**
 * @param build with the circuit as the maker laid it for its only plan, worked out as `stock`
 * @param maker that circuit's measure @param plans all plans, best first: worth is what the one that keeps most oil out keeps
 */
export function worthOf(build: Build, stock: Analysis, maker: Measured, plans: readonly Measured[]): Worth {
  const say = unitFormatter(build.units)
  const oil = ({ measure: { facts } }: Measured) => facts.intakeOil * facts.unwashed
  // what the law allows and the builder will do
  const open = plans.filter(({ measure: { facts } }) => facts.vented === 0 && facts.refused.length === 0)
  const best = open.reduce((least, p) => (oil(p) < oil(least) ? p : least), maker)
  const kept = oil(maker) - oil(best)
  const answer = kept >= LEAST_MUCH ? 'much' : kept >= LEAST_SOME ? 'some' : 'little'
  const washes = {
    direct: 'nothing washes the valves of a direct-injected engine',
    dual: 'its port injectors wash the valves some of the time',
    port: 'fuel washes the valves of a port-injected engine',
  }[build.engine.injection]
  const charged =
    build.engine.induction !== 'na' && build.engine.injection === 'port' ? ', but not its intercooler' : ''
  return {
    answer,
    kept,
    says: [
      `As the maker laid it, oil reaches the intake at about ${say.perDistance(maker.measure.facts.intakeOil)} on this use${sides(build, stock)}.`,
      `${keeps(maker, best, say)}; ${washes}${charged}. ${
        answer === 'much' ? 'It is worth it.' : answer === 'some' ? 'It gains something.' : 'It gains little.'
      }`,
    ],
  }
}

/** What the best plan does with that oil, and for what work. */
function keeps(maker: Measured, best: Measured, say: UnitFormatter): string {
  if (best.measure === maker.measure) return 'No can or separator keeps any of it out'
  const [x, y] = [maker.measure.facts, best.measure.facts]
  const saved = x.intakeOil - y.intakeOil
  const name = capital(lowered(best.name))
  const work = `for about ${y.effort.hours < 10 ? Number(y.effort.hours.toPrecision(2)) : Math.round(y.effort.hours)} h of work (estimate)`
  return saved > 0
    ? `${name} keeps ${bare(say.perDistance(saved))} of that out ${work}`
    : `${name} keeps none of it out, ${work}`
}

/** A figure whose unit the sentence has given. */
const bare = (text: string): string => text.replace(/[^\d.,].*$/, '').replace(/\.0+$/, '')

/** How the oil divides between the vacuum side and the breather side. */
function sides(build: Build, stock: Analysis): string {
  const say = unitFormatter(build.units)
  const variant = activeVariant(build)
  const of = (...kinds: readonly string[]) =>
    intakeOil(build, { ...variant, parts: variant.parts.filter((p) => kinds.includes(p.kind)) }, stock.states)
  const [vacuum, breather] = [of('manifold'), of('inlet', 'chargePipe', 'blowerInlet')]
  if (vacuum + breather <= 0) return ''
  return `: ${bare(say.perDistance(vacuum))} by the vacuum side, ${bare(say.perDistance(breather))} by the breather`
}
