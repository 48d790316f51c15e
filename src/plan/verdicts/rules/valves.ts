/** Valves: those that never open, those that open too soon, and the one that a pumping engine needs. */
import { NO_FLOW } from '../../model/results'
import { sealedSwing, volumeRange } from '@/core/pulsation/crankcase'
import { checkFor } from '../../catalogue/valves'
import { isBoundary } from '../../document/kinds'
import type { Part, PartOf } from '../../document/schema'
import { setPart, splice, reverseValve } from '../../edit/edit-builders'
import { atState, loweredName } from '../../document/words'
import { pulsates, pumpingOf } from '../../model/engine'
import { check } from '../../catalogue/parts'
import { LIMITS } from '../../model/limits'
import { TRACE } from '../../model/paths'
import { isCycleMean, type SolvedState } from '../../model/results'
import { flowIn, hosesOf, isJoined, pathBetween, pathTo, maxBy, type FlowStep } from '../plan-queries'
import type { Case, Finding, Rule } from '../verdict'

/** Gas breathed back that matters, as a share of blow-by. */
const BREATHED = 0.02

/** A one-way valve that opens in no state: fitted against the gas, or against nothing. */
export const valveIdle: Rule = {
  id: 'valve-idle',
  judge: (c) =>
    c.solved.length < c.analysis.engine.states.length
      ? []
      : c.variant.parts.flatMap((p): Finding[] => {
          if ((p.kind !== 'check' && p.kind !== 'pcv') || p.stuck || !isJoined(c, p.id)) return []
          if (c.solved.some((s) => Math.abs(flowIn(s, p.id)) > NO_FLOW)) return []
          // in a drain it lets oil by, not gas: that is said of the drain
          if (c.variant.lines.every((l) => l.kind === 'drain' || (l.from.part !== p.id && l.to.part !== p.id)))
            return []
          // which way gas would go, were it turned round
          const reversed = c.tryOut(reverseValve(p.id), 'idle')
          const helps = reversed !== undefined && Math.abs(reversed.flow[p.id] ?? 0) > NO_FLOW
          return [
            {
              subject: p.id,
              severity: helps ? 'fix' : 'watch',
              at: { station: 'circuit', part: p.id },
              title: `${p.name} never opens`,
              why: helps
                ? 'In every state the pressure stands against it: it is fitted the wrong way round, or the line behind it has no use.'
                : whyShut(c, p),
              fix: helps ? c.fix(`Turn the ${loweredName(p)} round`, reverseValve(p.id)) : undefined,
            },
          ]
        }),
}

/** What keeps a valve shut: the state in which it comes nearest to opening, and by how much it misses. */
function whyShut(c: Case, p: PartOf<'check'> | PartOf<'pcv'>): string {
  const crack = p.kind === 'check' ? p.crackKpa * 1000 : 0
  const missing = (s: SolvedState) => (s.gauge[`${p.id}.out`] ?? 0) + crack - (s.gauge[`${p.id}.in`] ?? 0)
  const s = maxBy(c.solved, (x) => -missing(x))
  if (!s) return 'In no state does the pressure open it.'
  const ahead = (s.gauge[`${p.id}.in`] ?? 0) - (s.gauge[`${p.id}.out`] ?? 0)
  const near = `Nearest ${atState(s.id)}, `
  if (ahead > 0 && crack > 0)
    return `${near}where ${c.say.pressure(ahead)} stands at it and it opens at ${c.say.pressure(crack)}: the other way out takes the gas first. A lighter spring would open it; as it is, the line behind it is there for nothing.`
  return `${near}where the pressure behind it is higher by ${c.say.pressure(Math.max(0, -ahead))}: the other way out takes all the gas. The line behind it is there for nothing.`
}

/** A relief cap that opens in ordinary driving is a vent. */
export const reliefOpen: Rule = {
  id: 'relief-open',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'relief' || !isJoined(c, p.id)) return []
      const at = { station: 'circuit', part: p.id } as const
      const side = c.variant.lines.find((l) => [l.from, l.to].some((e) => e.part === p.id && e.port === 'in'))
      const first = side && c.part(side.from.part === p.id ? side.to.part : side.from.part)
      const way = pathTo(c, p.id, (id) => c.part(id)?.kind === 'atmosphere')
      const openSide = way?.[0] && [way[0].line.from, way[0].line.to].find((e) => e.part === p.id)?.port
      if (!way || !first)
        return [
          {
            subject: p.id,
            severity: 'watch',
            at,
            title: `${p.name} leads nowhere`,
            why: 'It is to open into the air when the way out is shut, and no open air hangs on it.',
          },
        ]
      if (openSide === 'in')
        return [
          {
            subject: p.id,
            severity: 'fix',
            at,
            title: `${p.name} is fitted the wrong way round`,
            why: 'It would let air in and nothing out: when the way out is shut, a seal goes first.',
            fix: c.fix(`Turn the ${loweredName(p)} round`, reverseValve(p.id)),
          },
        ]
      if (p.openKpa * 1000 > LIMITS.crankcaseHigh)
        return [
          {
            subject: p.id,
            severity: 'fix',
            at,
            title: `${p.name} opens only at ${c.say.signed(p.openKpa * 1000)}`,
            why: `Seals weep from ${c.say.signed(LIMITS.crankcaseHigh)} on, so it comes too late to spare them.`,
            fix: c.fix(
              `Take a spring that opens at ${c.say.signed(RELIEF_KPA * 1000)}`,
              setPart(p.id, { openKpa: RELIEF_KPA }),
            ),
          },
        ]
      const s = maxBy(
        c.solved.filter((x) => Math.abs(flowIn(x, p.id)) > NO_FLOW),
        (x) => flowIn(x, p.id),
      )
      if (!s)
        return [
          {
            subject: p.id,
            severity: 'ok',
            at,
            title: `${p.name} stays shut in every state`,
            why: 'It is there for the day when ice or a full can shuts the way out.',
          },
        ]
      return [
        {
          subject: p.id,
          severity: 'watch',
          amount: flowIn(s, p.id),
          at: { ...at, state: s.id },
          title: `${p.name} opens ${atState(s.id)}`,
          why: `${c.say.flow(flowIn(s, p.id))} blows through it with the crankcase at ${c.say.signed(s.crankcaseGauge)}: it is working as a vent, not as a guard.`,
        },
      ]
    }),
}
/** What a relief cap ordinarily opens at, kPa. */
const RELIEF_KPA = 1.2

/** One way from the engine's inside to a place that holds a pressure, with the one-way valve that stands in it. */
type BreathingWay = { readonly steps: readonly FlowStep[]; readonly valve: Part | undefined }

/** Every way by which the crankcase can breathe: to each boundary that it is joined to. */
function breathingWays(c: Case): BreathingWay[] {
  const home = c.variant.parts.find((p) => p.kind === 'crankcase')?.id ?? ''
  return c.variant.parts.flatMap((p): BreathingWay[] => {
    const steps = isBoundary(p.kind) ? pathBetween(c, home, p.id) : undefined
    if (!steps) return []
    const through = steps.map((s) => c.part(s.part))
    const valve = through.find(
      (q) => q && (q.kind === 'check' || q.kind === 'pcv' || q.kind === 'relief') && q.stuck !== 'open',
    )
    return [{ steps, valve }]
  })
}

/** A single or a twin whose pistons do not cancel pumps its crankcase at every turn; only a one-way valve turns that into suction. */
export const pulsation: Rule = {
  id: 'pulsation',
  judge: (c) => {
    const { facts, amb } = c.analysis.engine
    if (!pulsates(c.build.engine)) return []
    const swing = sealedSwing(volumeRange(pumpingOf(c.build.engine, facts)), amb.pressurePa)
    if (swing < LIMITS.pulsation) return []
    const at = { station: 'engine' } as const
    const ways = breathingWays(c)
    const valve = ways.every((w) => w.valve) ? ways[0]?.valve : undefined
    const breathed = maxBy(
      c.solved.filter((s) => (s.cycle?.back ?? 0) > Math.max(TRACE, BREATHED * s.blowBy)),
      (s) => s.cycle!.back,
    )
    if (isCycleMean(c.analysis) && !breathed)
      return [
        {
          subject: 'rectified',
          severity: 'ok',
          at,
          title: 'The pistons pump gas out and draw none back',
          why: 'Followed over a turn of the crank in every state, nothing to speak of comes back in. See Pulsation.',
        },
      ]
    if (valve && breathed)
      return [
        {
          subject: 'pumping',
          severity: 'watch',
          amount: breathed.cycle!.back,
          at: { ...at, state: breathed.id },
          title: `Gas is breathed back past the ${loweredName(valve)} ${atState(breathed.id)}`,
          why: `${c.say.flow(breathed.cycle!.back)} comes back in at every turn on the mean, ${c.say.flow(breathed.cycle!.out)} goes out: the valve does not shut in time, or gas finds another way. Follow a turn under Pulsation.`,
        },
      ]
    if (valve)
      return [
        {
          subject: 'rectified',
          severity: 'ok',
          at,
          title: `${ways.length > 1 ? 'Valves rectify' : `${valve.name} rectifies`} the pistons' pumping`,
          why: `${ways.length > 1 ? 'One stands in every way to the outside' : 'It stands in the only way to the outside'} and lets the downstroke out and nothing back, so the crankcase stays below the pressure outside. See Pulsation.`,
        },
      ]
    const unguarded = ways.find((w) => !w.valve)
    const inEngine = (part: string) => ['cover', 'crankcase'].includes(c.part(part)?.kind ?? '')
    const line =
      unguarded?.steps.map((w) => w.line).find((l) => l.kind === 'hose') ??
      hosesOf(c).find((l) => inEngine(l.from.part) || inEngine(l.to.part))
    const outwards = line !== undefined && inEngine(line.from.part)
    return [
      {
        subject: 'pumping',
        severity: 'watch',
        ...(breathed ? { amount: breathed.cycle!.back } : {}),
        at: { ...at, ...(line ? { line: line.id } : {}) },
        title: `The pistons pump the crankcase by ±${c.say.pressure(swing)}`,
        why: `${unguarded && ways.some((w) => w.valve) ? `A valve stands in one way, but the ${loweredName(line)} is open both ways` : 'Nothing turns that into suction'}: gas is breathed out and in again at every turn${breathed ? ` (${c.say.flow(breathed.cycle!.back)} back ${atState(breathed.id)})` : ''} and carries oil each time. A one-way valve at the breather keeps the crankcase below the pressure outside. Follow a turn under Pulsation.`,
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
