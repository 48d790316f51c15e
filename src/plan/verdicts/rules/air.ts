/** Air: what sweeps the crankcase, what passes the throttle by, what leaks in. */
import { roadHours } from '@/core/service/rates'
import { isBreather } from '../../document/kinds'
import type { Part } from '../../document/schema'
import { cut, join } from '../../edit/edit-builders'
import { freePort } from '../../edit/ports'
import { reach, TAKE_OFFS } from '../../edit/take-offs'
import { atState, loweredName } from '../../document/words'
import { TRACE } from '../../model/paths'
import { bypassShare, type SolvedState } from '../../model/results'
import { hose } from '../../catalogue/parts'
import { sizesOf } from '../../catalogue/engine-side'
import { LIMITS } from '../../model/limits'
import { pathBetween, maxBy } from '../plan-queries'
import { restrict } from '../mend'
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
  const covers = c.variant.parts.filter((p) => p.kind === 'cover')
  const used = (p: Part) => c.variant.lines.filter((l) => l.from.part === p.id || l.to.part === p.id).length
  const cover = maxBy(covers, (p) => -used(p))
  const inlet = TAKE_OFFS.find((t) => t.kind === 'inlet')
  if (!cover || !inlet) return undefined
  const from = reach(c.variant, inlet)
  const line = {
    ...hose('fresh-air', 'Fresh-air line', {
      from: 'x.y',
      to: 'x.y',
      boreMm: sizesOf(c.build.engine).breatherMm,
      lengthMm: 700,
    }),
    from: from.end,
    to: { part: cover.id, port: freePort(c.variant, cover) },
  }
  return c.fix(`Lead a fresh-air line from the inlet tract to the ${loweredName(cover)}`, ...from.builders, join(line))
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
    if (s.turn && s.turn.back > s.blowBy)
      return [
        {
          subject: 'present',
          severity: 'ok',
          at,
          title: 'The pistons breathe air in at idle',
          why: `${c.say.flow(s.turn.back)} is drawn in over the turns and pushed out again, against ${c.say.flow(s.blowBy)} of blow-by: it thins the gas in the crankcase and carries water and fuel off.`,
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
          : `The manifold sucks at a closed crankcase and draws it to ${c.say.signed(s.crankcaseGauge)}. A filtered inlet ahead of the throttle is needed.`,
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
    if (!s || share <= LIMITS.idleBypassWatch) return []
    const much = share > LIMITS.idleBypass
    const manifold = c.variant.parts.find((p) => p.kind === 'manifold')
    return [
      {
        subject: 'idle',
        severity: much ? 'fix' : 'watch',
        amount: share,
        at: { station: 'circuit', part: manifold?.id, state: 'idle' },
        title: `Idle takes ${c.say.flow(share * s.operating.airKgS)} past the throttle`,
        why: `${Math.round(share * 100)} % of idle air. ${much ? 'Idle will surge and trims go lean; tune for it or restrict it.' : 'Idle control must close the throttle by as much; check idle trim after fitting.'}`,
        fix: restrict(
          c,
          'idle',
          (then) => bypassShare(then, c.variant.parts) <= (much ? 0.8 * LIMITS.idleBypass : LIMITS.idleBypassWatch),
        ),
      },
    ]
  },
}

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
    const found = maxBy(leaks, (x) => x.flow)
    if (!found) return []
    const { s, from, manifold, flow } = found
    const share = s.operating.airKgS > 0 ? flow / s.operating.airKgS : 0
    if (share < LIMITS.leak) return []
    const way = pathBetween(c, from.id, manifold.id) ?? []
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
        why: `${Math.round(share * 100)} % of engine air comes in unmetered at the ${loweredName(from)}${first ? `, by the ${loweredName(first)}` : ''}. ${can ? `A vented ${loweredName(can)} and a vacuum source do not go together: plug the vacuum port, or close the vent.` : 'A port is left open.'} Expect a lean code and a high idle.`,
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
