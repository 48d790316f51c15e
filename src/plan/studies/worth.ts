/** Whether a can is worth it: what the stock circuit sends to the intake, what washes the valves, what a can would keep. */
import type { Analysis } from '../analyse'
import type { Build } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { teller } from '../document/words'
import { intakeOil } from '../model/duty'

export type Worth = {
  readonly answer: 'much' | 'some' | 'little'
  /** two sentences with numbers */
  readonly says: readonly [stock: string, kept: string]
}

/** Millilitres in 1 000 km that stay on unwashed valves from which a can is worth much, or something (estimates). */
const [MUCH, SOME] = [7, 4.5]

/**
 * @param build with the circuit as the maker laid it for its only plan, worked out as `stock`
 * @param best the sound and lawful plan that keeps most
 * @param unwashed how much of the oil stays on the valves, 0-1
 */
export function worthOf(build: Build, stock: Analysis, best: Pick<Analysis, 'intakeOil'>, unwashed: number): Worth {
  const say = teller(build.units)
  const kept = Math.max(0, stock.intakeOil - best.intakeOil)
  const weighty = kept * 1e12 * unwashed
  const answer = weighty >= MUCH ? 'much' : weighty >= SOME ? 'some' : 'little'
  const washes = {
    direct: 'nothing washes the valves of a direct-injected engine',
    dual: 'its port injectors wash the valves some of the time',
    port: 'fuel washes the valves of a port-injected engine',
  }[build.engine.injection]
  const charged =
    build.engine.induction !== 'na' && build.engine.injection === 'port' ? ', but not its intercooler' : ''
  return {
    answer,
    says: [
      `As the maker laid it, oil reaches the intake at about ${say.perDistance(stock.intakeOil)} on this use${sides(build, stock)}.`,
      `A can or separator keeps up to ${bare(say.perDistance(kept))} of that out; ${washes}${charged}. ${
        answer === 'much' ? 'It is worth it.' : answer === 'some' ? 'It gains something.' : 'It gains little.'
      }`,
    ],
  }
}

/** A figure whose unit the sentence has given. */
const bare = (text: string): string => text.replace(/[^\d.,].*$/, '').replace(/\.0+$/, '')

/** How the oil divides between the vacuum side and the breather side. */
function sides(build: Build, stock: Analysis): string {
  const say = teller(build.units)
  const variant = activeVariant(build)
  const of = (...kinds: readonly string[]) =>
    intakeOil(build, { ...variant, parts: variant.parts.filter((p) => kinds.includes(p.kind)) }, stock.states)
  const [vacuum, breather] = [of('manifold'), of('inlet', 'chargePipe', 'blowerInlet')]
  if (vacuum + breather <= 0) return ''
  return `: ${bare(say.perDistance(vacuum))} by the vacuum side, ${bare(say.perDistance(breather))} by the breather`
}
