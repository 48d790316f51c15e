/** Oil: what no can has seen, what a can gives back, a can that sees none. */
import { GRAVITY } from '@/core/gas/air'
import { oilDensity, OIL_POURED } from '@/core/gas/oil'
import { fullLoadState } from '@/core/engine/states'
import { isBoundary } from '../../document/kinds'
import type { Line, Part } from '../../document/schema'
import { joinDrain, splice, reverseValve, setPart } from '../../edit/edit-builders'
import { cappedPorts, freePort } from '../../edit/ports'
import { atState, loweredName } from '../../document/words'
import { TRACE, UNSEEN } from '../../model/paths'
import { oilSum, type SolvedState } from '../../model/results'
import { can, drain } from '../../catalogue/parts'
import { LIMITS } from '../../model/limits'
import { flowIn, hosesOf, insideEngine, isJoined, maxBy } from '../plan-queries'
import type { Case, Finding, Rule } from '../verdict'
import { bowlGauge, drainPathOf } from '../../bay/drains'
import { bayDrain, floodFinding, turboDrainFindings } from './bay-drains'

const OILY = 1e-9

/** Blow-by that comes to a part of the inlet tract and that no can has seen, with the hose that brings most of it from the engine. */
function unseenInto(c: Case, s: SolvedState): { sink: Part; line: Line; flow: number; oil: number }[] {
  const paths = c.paths(s)
  const inside = new Set(insideEngine(c))
  return c.variant.parts.flatMap((sink) => {
    if (sink.kind !== 'inlet' && sink.kind !== 'chargePipe') return []
    const flow = paths.into(sink.id, UNSEEN)
    const unseen = (l: Line) => paths.through(l.id, UNSEEN)
    const hoses = hosesOf(c).filter((l) => unseen(l) > TRACE)
    const line = maxBy(
      hoses.filter((l) => inside.has(l.from.part) || inside.has(l.to.part)),
      unseen,
    )
    if (!line || flow <= TRACE) return []
    const oil = oilSum(s.passages[line.id]!.oil) * Math.min(1, flow / unseen(line))
    return [{ sink, line, flow, oil }]
  })
}

export const breatherUnprotected: Rule = {
  id: 'breather-unprotected',
  judge: (c) => {
    const { injection, induction } = c.build.engine
    const s = c.state(fullLoadState(induction))
    if (!s) return []
    const matters = injection !== 'port' || induction !== 'na'
    const idle = c.state('idle')
    return unseenInto(c, s).map(({ sink, line, flow, oil }): Finding => {
      const perHour = oil * 3600
      const reverses = idle !== undefined && flowIn(idle, line.id) * flowIn(s, line.id) < 0
      const outwards = insideEngine(c).includes(line.from.part)
      return {
        subject: line.id,
        // port injection washes it off: as the maker left it, no more is asked
        severity: matters ? (perHour > LIMITS.intakeOilFix ? 'fix' : 'watch') : 'ok',
        amount: perHour,
        at: { station: 'circuit', line: line.id, state: s.id },
        title: 'The breather side is unprotected at full load',
        why: `The ${loweredName(line)} ${reverses ? 'turns round and takes' : 'takes'} ${c.say.flow(flow)} to the ${loweredName(sink)}, with about ${c.say.volume(perHour / OIL_POURED)} of oil an hour that no can has seen.${matters ? '' : ' Port injection washes the valves, so this engine suffers least.'}`,
        fix: c.fix(
          `Put a can into the ${loweredName(line)}`,
          splice(line.id, can('breather-can', 'Breather can', 'wide-mesh'), 'middle', !outwards),
        ),
      }
    })
  },
}

/** In and out swapped: a can whose gas runs from `out` to `in` in the states in which it carries most. */
export const canSwapped: Rule = {
  id: 'can-swapped',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can') return []
      const s = maxBy(
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
          fix: c.fix(`Swap in and out of the ${loweredName(p)}`, reverseValve(p.id)),
        },
      ]
    }),
}

/** Share of the catch that stays, below which its going on is said, and below which it asks for a fix (estimates). */
const KEPT = { watch: 0.8, fix: 0.5 }
/** A little more than the section that just tears nothing off. */
const ROOM = 1.05

/** Gas that is too fast for a can's section tears off again what the stages have caught. */
export const tornOff: Rule = {
  id: 'torn-off',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can') return []
      const s = maxBy(
        c.solved.filter((x) => x.cans[p.id] && oilSum(x.cans[p.id]!.oilIn) > OILY),
        (x) => 1 - x.cans[p.id]!.kept,
      )
      const kept = s?.cans[p.id]!.kept ?? 1
      if (!s || kept >= KEPT.watch) return []
      // above the limit what stays falls with the square of the velocity, and that with the section
      const faceCm2 = Math.ceil((p.faceCm2 / Math.sqrt(kept)) * ROOM)
      return [
        {
          subject: p.id,
          severity: kept < KEPT.fix ? 'fix' : 'watch',
          amount: 1 - kept,
          at: { station: 'circuit', part: p.id, state: s.id },
          title: `${p.name} is too small for its gas ${atState(s.id)}`,
          why: `Through ${c.say.mm(2 * Math.sqrt((p.faceCm2 * 100) / Math.PI))} of inside diameter the gas is so fast that it tears off ${Math.round(100 * (1 - kept))} % of what was caught and carries it on. At ${c.say.mm(2 * Math.sqrt((faceCm2 * 100) / Math.PI))} it tears off nothing.`,
          fix: c.fix(
            `A can of ${c.say.mm(2 * Math.sqrt((faceCm2 * 100) / Math.PI))} inside instead`,
            setPart(p.id, { faceCm2 }),
          ),
        },
      ]
    }),
}

export const dryCan: Rule = {
  id: 'dry-can',
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

/** A separator that is to drain: whether it has a drain, and whether suction holds its oil up. */
export const drainBack: Rule = {
  id: 'drain-back',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can' || !p.drain) return []
      if (p.drain === 'shared') {
        const floods = floodFinding(c, p)
        return floods ? [floods] : []
      }
      const path = drainPathOf(c.variant, p.id)
      const line = path?.lines[0]
      const at = { station: 'circuit', part: p.id } as const
      if (!path || !line)
        return [
          {
            subject: `${p.id}-none`,
            severity: 'fix',
            at,
            title: `${p.name} has no drain`,
            why: 'It is to give its oil back by a line of its own, and there is none: it fills, and passes everything on.',
            fix: leadDrain(c, p),
          },
        ]
      const end = c.part(path.end.part)
      if (!end) return []
      if (path.against)
        return [
          {
            subject: `${p.id}-valve`,
            severity: 'fix',
            at: { ...at, part: path.against.id },
            title: `The ${loweredName(path.against)} lets no oil down`,
            why: `It stands in the drain of the ${loweredName(p)} with its outlet to the can, or is stuck shut: nothing comes back, the bowl fills and passes everything on.`,
            fix: c.fix(`Turn the ${loweredName(path.against)} round`, reverseValve(path.against.id)),
          },
        ]
      if (isBoundary(end.kind))
        return [
          {
            subject: `${p.id}-lost`,
            severity: 'stop',
            at: { ...at, line: line.id },
            title: `${p.name} drains into the ${loweredName(end)}`,
            why: 'What it has taken out of the gas runs to where it must not come. Lead the return to block, pan or turbo drain.',
          },
        ]
      const onTurbo = turboDrainFindings(c, p, line)
      const inBay = bayDrain(c, p)
      if (inBay) return [inBay, ...onTurbo]
      const above = (s: SolvedState) => (s.gauge[end.id] ?? 0) - bowlGauge(s, p)
      const held = (s: SolvedState) => (above(s) + path.crackPa) / (oilDensity(s.operating.oilK) * GRAVITY)
      const s = maxBy(c.solved, held)
      const column = s ? held(s) : 0
      if (!s || column <= LIMITS.drainColumn) return onTurbo
      return [
        ...onTurbo,
        {
          subject: `${p.id}-held`,
          severity: 'watch',
          amount: column,
          at: { ...at, line: line.id, state: s.id },
          title: `${path.crackPa > above(s) ? 'The valve in it' : 'Suction'} holds ${c.say.length(column)} of oil up in the ${loweredName(line)}`,
          why: `The bowl of the ${loweredName(p)} stands ${c.say.pressure(above(s))} below the ${loweredName(end)} ${atState(s.id)}${path.crackPa > 0 ? `, and its valve opens at ${c.say.pressure(path.crackPa)}` : ''}. Unless its floor is higher above the return than that, it drains only when that state ends.`,
        },
      ]
    }),
}

/** A return from a separator to the block. */
function leadDrain(c: Case, from: Part) {
  const crankcase = c.variant.parts.find((p) => p.kind === 'crankcase')
  if (!crankcase) return undefined
  const free = cappedPorts(c.variant, from).find((p) => p.id !== 'in' && p.id !== 'out')?.id ?? 'drain'
  const line = {
    ...drain('return', 'Return, to the block', { from: 'x.y', to: 'x.y', boreMm: 9.5, lengthMm: 450 }),
    from: { part: from.id, port: free },
    to: { part: crankcase.id, port: freePort(c.variant, crankcase) },
  }
  return c.fix(`Lead a return from the ${loweredName(from)} to the block`, joinDrain(line))
}
