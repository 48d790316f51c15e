/** Valves: those that never open, those that open too soon, and the one that a pumping engine needs. */
import { sealedSwing, volumeRange } from '@/core/pulsation/crankcase'
import { checkFor } from '../../catalogue/valves'
import { splice, turn } from '../../edit/deeds'
import { atState } from '../../explain/words'
import { pulsates, pumpingOf } from '../../model/engine'
import { check } from '../../schools/parts'
import { LIMITS } from '../limits'
import { flowIn, hosesOf, isJoined, SHUT, worst } from '../look'
import type { Finding, Rule } from '../verdict'

/** A one-way valve that opens in no state: fitted against the gas, or against nothing. */
export const valveIdle: Rule = {
  id: 'valve-idle',
  page: {
    title: 'Valve that never opens',
    looks: 'One-way valves in all states.',
    turns: () => 'Shut in every one.',
    why: 'It is fitted the wrong way round, or the line behind it has no use.',
    does: 'Blow through it: towards the manifold or the inlet tract it must pass.',
  },
  judge: (c) =>
    c.solved.length < c.analysis.engine.states.length
      ? []
      : c.variant.parts.flatMap((p): Finding[] => {
          if ((p.kind !== 'check' && p.kind !== 'pcv') || p.stuck || !isJoined(c, p.id)) return []
          if (c.solved.some((s) => Math.abs(flowIn(s, p.id)) > SHUT)) return []
          // which way gas would go, were it turned round
          const turned = c.tryOut(turn(p.id), 'idle')
          const helps = turned !== undefined && Math.abs(turned.flow[p.id] ?? 0) > SHUT
          return [
            {
              subject: p.id,
              severity: helps ? 'fix' : 'watch',
              at: { station: 'circuit', part: p.id },
              title: `${p.name} never opens`,
              why: helps
                ? 'In every state the pressure stands against it: it is fitted the wrong way round, or the line behind it has no use.'
                : 'In no state does the pressure open it. The line behind it is there for nothing.',
              fix: helps ? c.fix(`Turn the ${p.name.toLowerCase()} round`, turn(p.id)) : undefined,
            },
          ]
        }),
}

/** A relief cap that opens in ordinary driving is a vent. */
export const reliefOpen: Rule = {
  id: 'relief-open',
  page: {
    title: 'Relief cap',
    looks: 'Whether a relief cap opens in ordinary driving.',
    turns: () => 'Any flow.',
    why: 'Then it is a vent, not a guard.',
    does: 'A wider way out, or a higher opening pressure.',
  },
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'relief') return []
      const s = worst(
        c.solved.filter((x) => Math.abs(flowIn(x, p.id)) > SHUT),
        (x) => flowIn(x, p.id),
      )
      if (!s)
        return [
          {
            subject: p.id,
            severity: 'ok',
            at: { station: 'circuit', part: p.id },
            title: `${p.name} stays shut in every state`,
            why: 'It is there for the day when ice or a full can shuts the way out.',
          },
        ]
      return [
        {
          subject: p.id,
          severity: 'watch',
          at: { station: 'circuit', part: p.id, state: s.id },
          title: `${p.name} opens ${atState(s.id)}`,
          why: `${c.say.flow(flowIn(s, p.id))} blows through it with the crankcase at ${c.say.signed(s.crankcaseGauge)}: it is working as a vent, not as a guard.`,
        },
      ]
    }),
}

/** A single or a twin whose pistons do not cancel pumps its crankcase at every turn; only a one-way valve turns that into suction. */
export const pulsation: Rule = {
  id: 'pulsation',
  page: {
    title: 'Pulsation',
    looks: 'How far the pistons of a single or twin swing a closed crankcase.',
    turns: (say) => `Above ±${say.pressure(LIMITS.pulsation)} with no one-way valve in the breather.`,
    why: 'The crankcase breathes in and out at every turn and carries oil each time.',
    does: 'A one-way valve at the breather.',
  },
  judge: (c) => {
    const { facts, amb } = c.analysis.engine
    if (!pulsates(c.build.engine)) return []
    const swing = sealedSwing(volumeRange(pumpingOf(c.build.engine, facts)), amb.pressurePa)
    if (swing < LIMITS.pulsation) return []
    const at = { station: 'engine' } as const
    const valve = c.variant.parts.find(
      (p) => (p.kind === 'check' || p.kind === 'pcv' || p.kind === 'relief') && !p.stuck,
    )
    if (valve)
      return [
        {
          subject: 'rectified',
          severity: 'ok',
          at,
          title: `${valve.name} rectifies the pistons' pumping`,
          why: 'It lets the downstroke out and nothing back, so the crankcase stays below the pressure outside. See Pulsation.',
        },
      ]
    const inEngine = (part: string) => ['cover', 'crankcase'].includes(c.part(part)?.kind ?? '')
    const line = hosesOf(c).find((l) => inEngine(l.from.part) || inEngine(l.to.part))
    const outwards = line !== undefined && inEngine(line.from.part)
    return [
      {
        subject: 'pumping',
        severity: 'watch',
        at: { ...at, ...(line ? { line: line.id } : {}) },
        title: `The pistons pump the crankcase by ±${c.say.pressure(swing)}`,
        why: 'Nothing turns that into suction: gas is breathed out and in again at every turn and carries oil each time. A one-way valve at the breather keeps the crankcase below the pressure outside. Follow a turn under Pulsation.',
        fix:
          line &&
          c.fix(
            'Fit a one-way valve at the breather',
            splice(
              line.id,
              check('breather-valve', 'Breather valve', checkFor(line.boreMm)),
              outwards ? 'from' : 'to',
              !outwards,
            ),
          ),
      },
    ]
  },
}
