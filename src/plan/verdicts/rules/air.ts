/** Air: what sweeps the crankcase, what passes the throttle by, what leaks in. */
import { circleArea } from '@/core/circle'
import { GAS_GAMMA, GAS_R } from '@/core/gas/air'
import { orificeFlow } from '@/core/network/nozzle'
import { roadHours } from '@/core/service/rates'
import { isBreather } from '../../document/kinds'
import type { Line } from '../../document/schema'
import { cut } from '../../edit/edit-builders'
import { atState, loweredName } from '../../document/words'
import { TRACE } from '../../model/paths'
import { bypassShare, type SolvedState } from '../../model/results'
import { crankcaseText, LIMITS } from '../../model/limits'
import { metersAsTheMaker } from '../makers-circuit'
import { flowIn, maxBy, pathBetween, pathTo, type FlowStep } from '../plan-queries'
import { joinCoverToInlet, restrict } from '../mend'
import type { Case, Finding, Fix, Rule } from '../verdict'

/** Fresh air that comes to a part at a state, kg/s. */
const freshInto = (c: Case, s: SolvedState, part: string): number => {
  const paths = c.paths(s)
  return c.variant.parts.reduce(
    (sum, p) => sum + (isBreather(p.kind) && paths.feeding.has(p.id) ? paths.into(part, p.id) : 0),
    0,
  )
}

/** A hose from the inlet tract to a cover that the suction does not use, or to the only one. */
function leadFreshAir(c: Case): Fix | undefined {
  if (!c.offers) return undefined
  const led = joinCoverToInlet(c, { id: 'fresh-air', name: 'Fresh-air line', lengthMm: 700, leaves: false })
  return led && c.fix(`Lead a fresh-air line from the inlet tract to the ${loweredName(led.cover)}`, ...led.builders)
}

/** Fresh air comes in where something sucks at the crankcase: through any boundary but the manifold. */
export const freshAir: Rule = {
  id: 'fresh-air',
  judge: (c) => {
    const s = c.state('idle')
    if (!s) return []
    const at = { station: 'circuit', state: 'idle' } as const
    const covers = c.variant.parts.filter((p) => p.kind === 'cover')
    const crankcase = c.variant.parts.find((p) => p.kind === 'crankcase')
    const swept = crankcase ? freshInto(c, s, crankcase.id) : 0
    const cover = maxBy(covers, (p) => freshInto(c, s, p.id))
    if (s.cycle && s.cycle.back > s.blowBy)
      return [
        {
          subject: 'present',
          severity: 'ok',
          at,
          title: 'The pistons breathe air in at idle',
          why: `${c.say.flow(s.cycle.back)} is drawn in over the turns and pushed out again, against ${c.say.flow(s.blowBy)} of blow-by: it thins the gas in the crankcase and carries water and fuel off.`,
        },
      ]
    if (swept > TRACE)
      return [
        {
          subject: 'present',
          severity: 'ok',
          at,
          title: 'Fresh air sweeps the crankcase at idle',
          why: `${c.say.flow(swept)} passes down into it and out another way, and carries water and fuel off before they turn to sludge.`,
        },
      ]
    if (cover && freshInto(c, s, cover.id) > TRACE)
      return [
        {
          subject: 'present',
          severity: 'ok',
          at: { station: 'circuit', state: 'idle', part: cover.id },
          title: `Fresh air sweeps the ${loweredName(cover)} at idle`,
          why: `${c.say.flow(freshInto(c, s, cover.id))} enters it and leaves by the same cover: it thins the gas there and does not pass down through the crankcase.`,
        },
      ]
    const sucking = c.variant.parts.some((p) => p.kind === 'manifold' && (s.into[p.id]?.gas ?? 0) > s.blowBy * 0.2)
    if (!sucking) return unswept(c)
    const balanced = s.crankcaseGauge > LIMITS.crankcaseLow
    return [
      {
        subject: 'missing',
        severity: balanced ? 'watch' : 'stop',
        at,
        title: balanced ? 'No fresh air enters at idle' : 'There is no fresh-air path',
        why: balanced
          ? 'The suction takes less than the blow-by, so nothing sweeps the crankcase: water and fuel stay in the oil.'
          : `The manifold sucks at a closed crankcase and draws it to ${crankcaseText(c.say, s.crankcaseGauge)}. A filtered inlet ahead of the throttle is needed.`,
        fix: balanced ? undefined : leadFreshAir(c),
      },
    ]
  },
}

/** Nothing sucks at idle: on the road water and fuel stay in the oil; a car that is stripped after every race bears it. */
const unswept = (c: Case): Finding[] =>
  roadHours(c.build.duty.hours) === 0
    ? []
    : [
        {
          subject: 'missing',
          severity: 'watch',
          at: { station: 'circuit', state: 'idle' },
          title: 'No fresh air enters at idle',
          why: 'Nothing sucks at the crankcase, so only blow-by passes through it: water and fuel stay in the oil. Change it sooner on short trips.',
        },
      ]

export const idleBypass: Rule = {
  id: 'idle-bypass',
  judge: (c) => {
    const s = c.state('idle')
    const share = s ? bypassShare(s, c.variant.parts) : 0
    const much = share > LIMITS.idleBypass
    if (!s || share <= LIMITS.idleBypassWatch || (!much && metersAsTheMaker(c))) return []
    const manifold = c.variant.parts.find((p) => p.kind === 'manifold')
    return [
      {
        subject: 'idle',
        severity: much ? 'fix' : 'watch',
        amount: share,
        at: { station: 'circuit', part: manifold?.id, state: 'idle' },
        title: `Idle takes ${c.say.flow(share * s.operating.airKgS)} past the throttle`,
        why: `${share > 1 ? 'More than the engine idles on: it will not idle' : `${Math.round(share * 100)} % of idle air`}. ${share > 1 ? 'Restrict it.' : much ? 'Idle will surge and trims go lean; tune for it or restrict it.' : 'Idle control must close the throttle by as much; check idle trim after fitting.'}`,
        fix: restrict(
          c,
          'idle',
          (then) => bypassShare(then, c.variant.parts) <= (much ? 0.8 * LIMITS.idleBypass : LIMITS.idleBypassWatch),
        ),
      },
    ]
  },
}

/** The way from the open to the manifold that begins with the hose most air comes in by: the larger of two openings is named. */
function widestWay(c: Case, s: SolvedState, from: string, manifold: string): readonly FlowStep[] {
  const inward = (l: Line) => (l.from.part === from ? 1 : -1) * flowIn(s, l.id)
  const doors = c.variant.lines.filter((l) => l.kind !== 'drain' && (l.from.part === from || l.to.part === from))
  const widest = maxBy(doors, inward)
  if (!widest || doors.length < 2) return pathBetween(c, from, manifold) ?? []
  const next = widest.from.part === from ? widest.to.part : widest.from.part
  const rest = next === manifold ? [] : pathTo(c, next, (p) => p === manifold)
  return rest ? [{ line: widest, part: next }, ...rest] : (pathBetween(c, from, manifold) ?? [])
}

/** A manifold port that opens to the air by hoses which no crankcase gas passes: no circuit solves it, the engine breathes it all the same. */
function unsealedPort(c: Case): Finding[] {
  const s = c.state('idle')
  const { amb } = c.analysis.engine
  if (!s || s.operating.manifoldPa >= amb.pressurePa) return []
  return c.variant.parts.flatMap((air): Finding[] => {
    if (air.kind !== 'atmosphere') return []
    const way = pathTo(c, air.id, (id) => c.part(id)?.kind === 'manifold')
    const parts = way?.map((step) => c.part(step.part)) ?? []
    if (!way || parts.some((p) => p?.kind === 'crankcase' || p?.kind === 'cover')) return []
    // solved, it is a leak that the flows tell of
    if (way.every((step) => s.passages[step.line.id])) return []
    const boreMm = Math.min(...way.map((step) => (step.line.kind === 'hose' ? step.line.boreMm : Infinity)), 25)
    const flow = orificeFlow(
      { cd: OPEN_END_CD, areaM2: circleArea(boreMm / 1000) },
      amb.pressurePa,
      s.operating.manifoldPa,
      { R: GAS_R, gamma: GAS_GAMMA, T: amb.temperatureK },
    )
    const share = flow / s.operating.airKgS
    if (!(share >= LIMITS.leak)) return []
    const line = way.at(-1)!.line
    return [
      {
        subject: air.id,
        severity: share > LIMITS.leakStop ? 'stop' : 'fix',
        amount: flow,
        at: { station: 'circuit', part: air.id, line: line.id, state: 'idle' },
        title: `A vacuum port stands open at idle by the ${loweredName(line)}`,
        why: `It joins the manifold to the open air through ${c.say.mm(boreMm)}, apart from the crankcase: ${share > 1 ? 'more than the engine idles on' : `about ${Math.round(share * 100)} % of engine air`} comes in unmetered. Expect a lean code and a high idle.`,
        fix: c.fix(`Take the ${loweredName(line)} off and plug the vacuum port`, cut(line.id)),
      },
    ]
  })
}
/** Discharge of an open hose end (a sharp-edged inlet, estimate). */
const OPEN_END_CD = 0.6

/** Air from outside that reaches the manifold without being metered: a vacuum source on a vented can, a port left open. */
export const vacuumLeak: Rule = {
  id: 'vacuum-leak',
  judge: (c) => {
    const manifolds = c.variant.parts.filter((p) => p.kind === 'manifold')
    const open = c.variant.parts.filter((p) => p.kind === 'atmosphere')
    const leaks = open.flatMap((from) =>
      c.solved.flatMap((s) => {
        const paths = c.paths(s)
        if (!paths.feeding.has(from.id)) return []
        return manifolds.map((manifold) => ({ s, from, manifold, flow: paths.into(manifold.id, from.id) }))
      }),
    )
    const shareOf = (x: { readonly s: SolvedState; readonly flow: number }) =>
      x.s.operating.airKgS > 0 ? x.flow / x.s.operating.airKgS : 0
    // a code and a high idle come at idle: that is said where it leaks there, else the state that it matters most in
    const idle = leaks.filter((x) => x.s.id === 'idle' && shareOf(x) >= LIMITS.leak)
    const found = maxBy(idle.length > 0 ? idle : leaks, shareOf)
    if (!found) return unsealedPort(c)
    const { s, from, manifold, flow } = found
    const share = shareOf(found)
    if (share < LIMITS.leak) return unsealedPort(c)
    const way = widestWay(c, s, from.id, manifold.id)
    const can = way.map((step) => c.part(step.part)).find((p) => p?.kind === 'can')
    const [first, last] = [way[0]?.line, way.findLast((step) => step.line.kind === 'hose')?.line]
    const filtered = way.some((step) => c.part(step.part)?.kind === 'filter')
    const closing = can || filtered ? last : first
    return [
      {
        subject: from.id,
        severity: share > LIMITS.leakStop ? 'stop' : 'fix',
        amount: flow,
        at: { station: 'circuit', part: from.id, state: s.id },
        title: `${c.say.flow(flow)} of air leaks into the manifold ${atState(s.id)}`,
        why: `${share > 1 ? 'More air than the engine takes' : `${Math.round(share * 100)} % of engine air`} comes in unmetered at the ${loweredName(from)}${first ? `, by the ${loweredName(first)}` : ''}. ${can ? `A vented ${loweredName(can)} and a vacuum source do not go together: plug the vacuum port, or close the vent.` : 'A port is left open.'} Expect a lean code and a high idle.`,
        fix:
          closing &&
          c.fix(
            closing === first && !filtered
              ? `Cap the open end: take the ${loweredName(closing)} off`
              : `Take the ${loweredName(closing)} off and plug the vacuum port`,
            cut(closing.id),
          ),
      },
    ]
  },
}
