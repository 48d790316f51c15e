/** Pressure in the crankcase, and gas too fast for its hose. */
import type { StateId } from '@/core/engine/states'
import type { Line } from '../../document/schema'
import { setLine } from '../../edit/deeds'
import { atState } from '../../explain/words'
import { oilSum, type SolvedState } from '../../model/results'
import { gasDensity } from '../../model/states'
import { judgeCrankcase, LIMITS } from '../limits'
import { flowIn, hosesOf, nextBores, worst } from '../look'
import { restrict } from '../mend'
import type { Case, Finding, Fix, Rule } from '../verdict'

const dropIn = (s: SolvedState, l: Line) => {
  const p = s.passages[l.id]
  return p ? p.gaugeFrom - p.gaugeTo : 0
}

/**
 * The hose whose larger bore brings the state's crankcase pressure to `good`, with the smallest step that does; else the first that is at
 * least `better`. Each try is solved, so only the `hoses` that lose most are widened, by up to `steps` sizes.
 */
function widen(
  c: Case,
  state: StateId,
  good: (gauge: number) => boolean,
  better: (gauge: number) => boolean,
  { hoses, steps }: { readonly hoses: number; readonly steps: number },
): Fix | undefined {
  const s = c.state(state)
  if (!s) return undefined
  const carrying = hosesOf(c)
    .filter((l) => Math.abs(flowIn(s, l.id)) > 1e-6)
    .toSorted((x, y) => Math.abs(dropIn(s, y)) - Math.abs(dropIn(s, x)))
    .slice(0, hoses)
  let second: Fix | undefined
  for (const line of carrying) {
    for (const bore of nextBores(line.boreMm).slice(0, steps)) {
      const deed = setLine(line.id, { boreMm: bore.mm })
      const then = c.tryOut(deed, state)
      if (!then) continue
      const fix = () => c.fix(`Make the ${line.name.toLowerCase()} ${c.say.mm(bore.mm)} (${bore.name})`, deed)
      if (good(then.crankcaseGauge)) return fix()
      if (!second && better(then.crankcaseGauge)) second = fix()
    }
  }
  return second
}

function tooHigh(c: Case, s: SolvedState): Finding {
  const stop = judgeCrankcase(s.crankcaseGauge) === 'stop'
  return {
    subject: 'high',
    severity: stop ? 'stop' : 'watch',
    at: { station: 'circuit', state: s.id },
    title: `Crankcase at ${c.say.signed(s.crankcaseGauge)} ${atState(s.id)}`,
    why: stop
      ? `Above ${c.say.signed(LIMITS.crankcaseHigh)} for long, seals weep or blow out and the dipstick lifts. The way out is too narrow for the blow-by.`
      : 'Any pressure above the surroundings pushes oil at seals and gaskets. The way out is a little narrow.',
    fix: widen(
      c,
      s.id,
      (g) => g < 0,
      (g) => g < LIMITS.crankcaseHigh && g < 0.6 * s.crankcaseGauge,
      // what is only worth a watch is worth the next size of the worst hose
      stop ? { hoses: 2, steps: 8 } : { hoses: 1, steps: 1 },
    ),
  }
}

function tooLow(c: Case, s: SolvedState): Finding {
  const stop = judgeCrankcase(s.crankcaseGauge) === 'stop'
  return {
    subject: 'low',
    severity: stop ? 'stop' : 'watch',
    at: { station: 'circuit', state: s.id },
    title: `Crankcase at ${c.say.signed(s.crankcaseGauge)} ${atState(s.id)}`,
    why: stop
      ? `Below ${c.say.pressure(LIMITS.crankcaseTooLow)} standard lip seals are sucked inwards, run dry and let air in.`
      : `Below ${c.say.pressure(LIMITS.crankcaseLow)} lip seals run dry and whistle.`,
    fix: restrict(c, s.id, (then) => then.crankcaseGauge > LIMITS.crankcaseLow),
  }
}

export const crankcasePressure: Rule = {
  id: 'crankcase-pressure',
  page: {
    title: 'Crankcase pressure',
    looks: 'Gauge pressure of the crankcase in every state.',
    turns: (say) =>
      `Good from ${say.pressure(LIMITS.crankcaseLow)} to the pressure outside; a stop above ${say.pressure(LIMITS.crankcaseHigh)} or below ${say.pressure(LIMITS.crankcaseTooLow)} (estimates for standard lip seals).`,
    why: 'Pressure pushes oil past seals, deep vacuum turns lip seals inwards and runs them dry.',
    does: 'Widen the way out, or restrict what sucks.',
  },
  judge: (c) => {
    const high = worst(
      c.solved.filter((s) => s.crankcaseGauge > LIMITS.crankcaseWarm),
      (s) => s.crankcaseGauge,
    )
    const low = worst(
      c.solved.filter((s) => s.crankcaseGauge < LIMITS.crankcaseLow),
      (s) => -s.crankcaseGauge,
    )
    const found = [...(high ? [tooHigh(c, high)] : []), ...(low ? [tooLow(c, low)] : [])]
    const top = worst(c.solved, (s) => s.crankcaseGauge)
    if (found.length > 0 || !top) return found
    return [
      {
        subject: 'good',
        severity: 'ok',
        at: { station: 'circuit', state: top.id },
        title:
          top.crankcaseGauge < 0
            ? 'Crankcase under slight vacuum in every state'
            : 'Crankcase pressure is good in every state',
        why: `Highest ${c.say.signed(top.crankcaseGauge)}, ${atState(top.id)}.`,
      },
    ]
  },
}

/** Drag on a film goes with rho v^2, so thin gas under vacuum may run faster: the limit holds at 1 kg/m3. */
const filmLimit = (c: Case, s: SolvedState, lineId: string): number => {
  const p = s.passages[lineId]
  const rho = p ? gasDensity(s.operating, (p.gaugeFrom + p.gaugeTo) / 2, c.analysis.engine.amb.pressurePa) : 1
  return LIMITS.wetVelocity / Math.sqrt(rho)
}

export const velocity: Rule = {
  id: 'velocity',
  page: {
    title: 'Velocity',
    looks: 'Gas velocity in every hose that carries oil.',
    turns: (say) => `Above ${say.speed(LIMITS.wetVelocity)} at 1 kg/m³, more for thinner gas (estimate).`,
    why: 'Fast gas drags the oil film along the wall instead of letting it drain back.',
    does: 'The next bore up.',
  },
  judge: (c) => {
    const over = (s: SolvedState, line: Line) => (s.passages[line.id]?.velocity ?? 0) / filmLimit(c, s, line.id)
    return hosesOf(c).flatMap((line): Finding[] => {
      const wet = c.solved.filter((s) => oilSum(s.passages[line.id]?.oil) > 1e-9)
      const s = worst(wet, (x) => over(x, line))
      const ratio = s ? over(s, line) : 0
      if (!s || ratio <= 1) return []
      const v = s.passages[line.id]!.velocity
      const bore = nextBores(line.boreMm).find((b) => ratio * (line.boreMm / b.mm) ** 2 <= 1)
      return [
        {
          subject: line.id,
          severity: ratio > LIMITS.wetVelocityFix ? 'fix' : 'watch',
          at: { station: 'circuit', line: line.id, state: s.id },
          title: `${line.name} runs at ${c.say.speed(v)} ${atState(s.id)}`,
          why: `Above ${c.say.speed(v / ratio)} gas of this density drags the oil film along the wall instead of letting it drain back.`,
          fix:
            bore &&
            c.fix(
              `Make the ${line.name.toLowerCase()} ${c.say.mm(bore.mm)} (${bore.name})`,
              setLine(line.id, { boreMm: bore.mm }),
            ),
        },
      ]
    })
  },
}
