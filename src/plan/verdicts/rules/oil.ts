/** Oil: what no can has seen, what a can gives back, a can that sees none. */
import { OIL_POURED } from '@/core/gas/oil'
import { fullLoadState } from '@/core/engine/states'
import { splice, turn } from '../../edit/deeds'
import { atState } from '../../explain/words'
import { oilSum } from '../../model/results'
import { can } from '../../schools/parts'
import { LIMITS } from '../limits'
import { flowIn, hosesOf, isJoined, worst } from '../look'
import type { Finding, Rule } from '../verdict'

const OILY = 1e-9

export const breatherUnprotected: Rule = {
  id: 'breather-unprotected',
  page: {
    title: 'Breather side unprotected',
    looks: 'Oil that leaves a cover for the inlet tract at full load through no can.',
    turns: () => `Mend above ${LIMITS.intakeOilFix * 1000} g/h on a boosted or direct-injected engine.`,
    why: 'At full throttle the gas turns round and leaves by the fresh-air line: a can on the vacuum side sees none of it.',
    does: 'A can or separator in that line.',
  },
  judge: (c) => {
    const { injection, induction } = c.build.engine
    const s = c.state(fullLoadState(induction))
    if (!s) return []
    const matters = injection !== 'port' || induction !== 'na'
    return hosesOf(c).flatMap((line): Finding[] => {
      const flow = flowIn(s, line.id)
      if (Math.abs(flow) < 1e-6) return []
      const [source, sink] = (flow > 0 ? [line.from, line.to] : [line.to, line.from]).map((e) => c.part(e.part))
      if (source?.kind !== 'cover' && source?.kind !== 'crankcase') return []
      if (sink?.kind !== 'inlet' && sink?.kind !== 'chargePipe') return []
      const oil = oilSum(s.passages[line.id]!.oil) * 3600
      return [
        {
          subject: line.id,
          severity: matters && oil > LIMITS.intakeOilFix ? 'fix' : 'watch',
          at: { station: 'circuit', line: line.id, state: s.id },
          title: 'The breather side is unprotected at full load',
          why: `The ${line.name.toLowerCase()} turns round and takes ${c.say.flow(Math.abs(flow))} to the ${sink.name.toLowerCase()}, with about ${c.say.volume(oil / OIL_POURED)} of oil an hour that no can has seen.${matters ? '' : ' Port injection washes the valves, so this engine suffers least.'}`,
          fix: c.fix(
            `Put a can into the ${line.name.toLowerCase()}`,
            splice(line.id, can('breather-can', 'Breather can', 'wide-mesh'), 'middle', flow < 0),
          ),
        },
      ]
    })
  },
}

/** In and out swapped: a can whose gas runs from `out` to `in` in the states in which it carries most. */
export const canSwapped: Rule = {
  id: 'can-swapped',
  page: {
    title: 'In and out swapped',
    looks: 'Which way oily gas crosses a can.',
    turns: () => 'Most of it from outlet to inlet.',
    why: 'It blows through the bowl and picks up what was caught.',
    does: 'Swap the hoses.',
  },
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can') return []
      const s = worst(
        c.solved.filter((x) => flowIn(x, p.id) < -1e-6),
        (x) => -flowIn(x, p.id),
      )
      const onwards = Math.max(0, ...c.solved.map((x) => flowIn(x, p.id)))
      if (!s || oilSum(s.passages[p.id]!.oil) <= OILY || -flowIn(s, p.id) < onwards) return []
      return [
        {
          subject: p.id,
          severity: 'fix',
          at: { station: 'circuit', part: p.id, state: s.id },
          title: `${p.name} is plumbed the wrong way round`,
          why: `${c.say.flow(-flowIn(s, p.id))} enters by its outlet ${atState(s.id)}: the gas picks up what the bowl holds instead of leaving it there.`,
          fix: c.fix(`Swap in and out of the ${p.name.toLowerCase()}`, turn(p.id)),
        },
      ]
    }),
}

export const dryCan: Rule = {
  id: 'dry-can',
  page: {
    title: 'Can that stays dry',
    looks: 'Oil in the gas that crosses a can.',
    turns: () => 'None in any state.',
    why: 'It stands on the fresh-air side.',
    does: 'Move it to the line that the gas takes.',
  },
  judge: (c) =>
    c.solved.length < c.analysis.engine.states.length
      ? []
      : c.variant.parts.flatMap((p): Finding[] => {
          if (p.kind !== 'can' || !isJoined(c, p.id)) return []
          if (c.solved.some((s) => Math.abs(flowIn(s, p.id)) > 1e-6 && oilSum(s.passages[p.id]!.oil) > OILY)) return []
          return [
            {
              subject: p.id,
              severity: 'watch',
              at: { station: 'circuit', part: p.id },
              title: `${p.name} sees no oily gas in any state`,
              why: 'It stands where fresh air runs, or where nothing does. It will stay dry and the intake will not.',
            },
          ]
        }),
}
