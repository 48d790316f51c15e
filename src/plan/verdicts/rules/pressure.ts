/** Pressure in the crankcase, and gas too fast for its hose. */
import { CANS } from '../../catalogue/cans'
import { CHECKS } from '../../catalogue/valves'
import { isBoundary } from '../../document/kinds'
import type { Line, Part } from '../../document/schema'
import { chain, setLine, setPart, type EditBuilder } from '../../edit/edit-builders'
import { portLoss } from '../../model/resolve'
import { asTheMakerLaid } from '../makers-circuit'
import { atState, lowered, loweredName } from '../../document/words'
import { BLOW_BY, TRACE } from '../../model/paths'
import { oilSum, type SolvedState } from '../../model/results'
import { gasDensity } from '../../model/state-result'
import { crankcaseText, judgeCrankcase, judgeState, LIMITS } from '../../model/limits'
import { hosesOf, insideEngine, nextBores, pathBetween, maxBy } from '../plan-queries'
import { joinCoverToInlet, restrict, reverseFix } from '../mend'
import type { Case, Finding, Fix, Rule } from '../verdict'

/** Nearer to the pressure outside than a gauge reads, Pa; and vacuum that is no longer slight. */
const [A_GAUGE, SLIGHT] = [5, -1000]

/** One element on the gas's way out, and what it loses there, Pa. */
type ElementLoss = { readonly id: string; readonly drop: number }

/** Where most of the blow-by leaves, the manifold only where nothing else takes it. */
const sinkOfBlowBy = (c: Case, s: SolvedState): Part | undefined => {
  const paths = c.paths(s)
  return maxBy(
    c.variant.parts.filter((p) => isBoundary(p.kind) && paths.into(p.id, BLOW_BY) > TRACE),
    (p) => paths.into(p.id, BLOW_BY) * (p.kind === 'manifold' ? 0.01 : 1),
  )
}

/**
 * What the gas loses on its way out, the most first: from the crankcase to where most of it leaves, the manifold only
 * where nothing else takes it.
 */
function losses(c: Case, s: SolvedState): ElementLoss[] {
  const home = c.variant.parts.find((p) => p.kind === 'crankcase')
  const sink = sinkOfBlowBy(c, s)
  const way = home && sink ? (pathBetween(c, home.id, sink.id) ?? []) : []
  const found = new Map<string, ElementLoss>()
  const visit = (id: string) => {
    const p = s.passages[id]
    if (p && !found.has(id)) found.set(id, { id, drop: Math.abs(p.gaugeFrom - p.gaugeTo) })
  }
  for (const { line, part } of way) {
    visit(line.id)
    visit(part)
    for (const e of [line.from, line.to]) visit(`${e.part}.${e.port}`)
  }
  return [...found.values()].toSorted((a, b) => b.drop - a.drop)
}

/** "baffle and nipple of the cam cover" for a cover's port, else the line's or part's own name. */
function nameOf(c: Case, id: string): string {
  const line = c.variant.lines.find((l) => l.id === id)
  const part = c.part(id) ?? c.part(id.split('.')[0]!)
  return line ? loweredName(line) : c.part(id) ? loweredName(part) : `baffle and nipple of the ${loweredName(part)}`
}

type SizeUp = { readonly label: string; readonly builder: EditBuilder }
/** A baffle and nipple that pass half as much again, as freely as a baffle should (its rows against the outlet's bore). */
function nippleUp(cover: Part, portId: string): SizeUp[] {
  const port = cover.ports.find((p) => p.id === portId)
  if (!port || portLoss(port) <= LEAST_LOSS_KPA) return []
  const lossKpaAt100 = Math.max(LEAST_LOSS_KPA, Number((portLoss(port) / 2.25).toPrecision(2)))
  return [
    {
      label: `Open the baffle and nipple of the ${loweredName(cover)} half as wide again`,
      builder: setPart(cover.id, {
        ports: cover.ports.map((p) =>
          p === port ? { ...p, lossKpaAt100, boreMm: p.boreMm === undefined ? undefined : p.boreMm * 1.5 } : p,
        ),
      }),
    },
  ]
}
/** No baffle loses less, kPa at 100 l/min (estimate). */
const LEAST_LOSS_KPA = 0.1

/** Ways to make one element pass more, the smallest step first. */
function openings(c: Case, id: string, steps: number): SizeUp[] {
  const [coverId, portId] = id.split('.')
  const cover = portId === undefined ? undefined : c.part(coverId!)
  if (cover?.kind === 'cover') return nippleUp(cover, portId!)
  const line = c.variant.lines.find((l) => l.id === id)
  if (line)
    return nextBores(line.boreMm)
      .slice(0, steps)
      .map((bore) => ({
        label: `Make the ${loweredName(line)} ${c.say.mm(bore.mm)} (${bore.name})`,
        builder: setLine(line.id, { boreMm: bore.mm }),
      }))
  const part = c.part(id)
  if (part?.kind === 'check')
    return CHECKS.filter((e) => e.spec.seatMm > part.seatMm + 0.5)
      .slice(0, steps)
      .map((e) => ({
        label: `Take a ${loweredName(part)} of ${c.say.mm(e.spec.seatMm)} seat`,
        builder: setPart(id, { ...e.spec, measured: undefined }),
      }))
  if (part?.kind === 'regulator')
    return nextBores(part.boreMm)
      .slice(0, steps)
      .map((bore) => ({
        label: `Take a ${loweredName(part)} of ${c.say.mm(bore.mm)}`,
        builder: setPart(id, { boreMm: bore.mm }),
      }))
  if ((part?.kind === 'filter' || part?.kind === 'can') && (part.fouling ?? 1) > 1)
    return [{ label: `Clean the ${loweredName(part)}`, builder: setPart(id, { fouling: undefined }) }]
  // of a clean one the next larger has twice the paper, or a second stands beside it
  if (part?.kind === 'filter')
    return [
      {
        label: `Take a ${loweredName(part)} of twice the area`,
        builder: setPart(id, { dropKpaAt100: part.dropKpaAt100 / 2 }),
      },
    ]
  if (part?.kind === 'can')
    return CANS.filter(
      (e) => e.spec.dropKpaAt100 < 0.8 * part.dropKpaAt100 && e.spec.bowlMl >= part.bowlMl && !part.drain,
    )
      .toSorted((a, b) => b.spec.dropKpaAt100 - a.spec.dropKpaAt100)
      .slice(0, steps)
      .map((e) => ({
        label: `Take a ${loweredName(e)} for the ${loweredName(part)}`,
        builder: setPart(id, { ...e.spec, measured: undefined }),
      }))
  return []
}

type Openings = { readonly elements: number; readonly steps: number }

/**
 * What, made to pass more, brings the state's crankcase pressure to `good` with the smallest step that does; else the first that is at
 * least `better`; else several together, the widest of each. Each try is solved, so only the elements that lose most are opened.
 */
function widen(
  c: Case,
  s: SolvedState,
  { good, better = () => false }: { good: (gauge: number) => boolean; better?: (gauge: number) => boolean },
  { elements, steps }: Openings,
): Fix | undefined {
  if (!c.offers) return undefined
  const tight = losses(c, s)
    .map((l) => openings(c, l.id, steps))
    .filter((o) => o.length > 0)
    .slice(0, elements)
  let second: readonly SizeUp[] | undefined
  for (const ways of tight) {
    for (const way of ways) {
      const then = c.tryOut(way.builder, s.id)
      if (!then) continue
      if (good(then.crankcaseGauge)) return c.fix(way.label, way.builder)
      if (!second && better(then.crankcaseGauge)) second = [way]
    }
  }
  // none is enough alone: the one that loses most, then the next with it
  const together: SizeUp[] = []
  for (const ways of second ? [] : tight) {
    together.push(ways.at(-1)!)
    const then = together.length > 1 ? c.tryOut(chain(...together.map((w) => w.builder)), s.id) : undefined
    if (!then) continue
    if (good(then.crankcaseGauge)) return fixOf(c, together)
    if (!second && better(then.crankcaseGauge)) second = [...together]
  }
  return second && fixOf(c, second)
}
const fixOf = (c: Case, steps: readonly SizeUp[]): Fix | undefined =>
  c.fix(steps.map((w, i) => (i === 0 ? w.label : lowered(w.label))).join(', and '), ...steps.map((w) => w.builder))

/** A second way out from a cover to the inlet tract, of the bore that the engine's breather has, where that is enough. */
function secondBreather(c: Case, s: SolvedState, enough: (gauge: number) => boolean): Fix | undefined {
  if (!c.offers) return undefined
  const second = joinCoverToInlet(c, { id: 'second-breather', name: 'Second breather', lengthMm: 600, leaves: true })
  if (!second) return undefined
  const { cover, builders } = second
  const then = c.tryOut(chain(...builders), s.id)
  return then && enough(then.crankcaseGauge)
    ? c.fix(`Lead a second breather from the ${loweredName(cover)} to the inlet tract`, ...builders)
    : undefined
}

/** Why the crankcase stands high: gas that comes in beside the blow-by, a place under pressure that it must leave by, or its own way out. */
function whyHigh(c: Case, s: SolvedState, stop: boolean): string {
  const paths = c.paths(s)
  const inside = insideEngine(c)
  const reaching = (p: Part) => Math.max(0, ...inside.map((id) => paths.into(id, p.id)))
  const comesIn = maxBy(
    c.variant.parts.filter((p) => isBoundary(p.kind) && paths.feeding.has(p.id)),
    reaching,
  )
  const added = comesIn ? reaching(comesIn) : 0
  if (comesIn && added > ADDED * s.blowBy)
    return `${c.say.flow(added)} comes in from the ${loweredName(comesIn)} on top of the blow-by.`
  const out = sinkOfBlowBy(c, s)
  const against = out ? (s.gauge[out.id] ?? 0) : 0
  if (out && against > s.crankcaseGauge / 2)
    return `It must leave by the ${loweredName(out)}, which stands at ${c.say.signed(against)} itself.`
  const most = losses(c, s)[0]
  const where = most ? ` Most is lost in the ${nameOf(c, most.id)}: ${c.say.pressure(most.drop)}.` : ''
  return `The way out is ${stop ? 'too' : 'a little'} narrow for the blow-by.${where}`
}
/** Gas that comes into the crankcase beside the blow-by, as a share of it, from which that is the reason. */
const ADDED = 0.25

function tooHigh(c: Case, s: SolvedState): Finding {
  const stop = judgeState(s) === 'stop'
  const good = (gauge: number) => gauge < (stop ? 0 : LIMITS.crankcaseWarm)
  return {
    subject: 'high',
    severity: stop ? 'stop' : 'watch',
    amount: s.crankcaseGauge,
    at: { station: 'circuit', state: s.id },
    title: `Crankcase at ${c.say.signed(s.crankcaseGauge)} ${atState(s.id)}`,
    why: stop
      ? `Above ${c.say.signed(LIMITS.crankcaseHigh)} for long, seals weep or blow out and the dipstick lifts. ${whyHigh(c, s, stop)}`
      : `Any pressure above the surroundings pushes oil at seals and gaskets. ${whyHigh(c, s, stop)}`,
    fix: stop
      ? (reverseFix(c, s.id, (then) => judgeCrankcase(then.crankcaseGauge) !== 'stop') ??
        widen(c, s, { good, better: (g) => g < LIMITS.crankcaseHigh && g < 0.6 * s.crankcaseGauge }, OPENED_STOP) ??
        secondBreather(c, s, (g) => g < LIMITS.crankcaseHigh))
      : widen(c, s, { good, better: (g) => g < 0.6 * s.crankcaseGauge }, OPENED_WATCH),
  }
}

/** How many elements are opened, one after another, each by up to so many sizes, for a stop and for a watch. */
const OPENED_STOP: Openings = { elements: 5, steps: 6 }
const OPENED_WATCH: Openings = { elements: 3, steps: 3 }

function tooLow(c: Case, s: SolvedState): Finding {
  const stop = judgeState(s) === 'stop'
  return {
    subject: 'low',
    severity: stop ? 'stop' : 'watch',
    amount: -s.crankcaseGauge,
    at: { station: 'circuit', state: s.id },
    title: `Crankcase ${s.crankcaseGauge < LIMITS.crankcaseLeast ? 'sucked' : 'at'} ${crankcaseText(c.say, s.crankcaseGauge)} ${atState(s.id)}`,
    why: stop
      ? `Below ${c.say.pressure(LIMITS.crankcaseTooLow)} standard lip seals are sucked inwards, run dry and let air in.`
      : s.cycle
        ? `That is the mean of a turn; the pistons swing it down to ${c.say.signed(s.cycle.least)}. Seals of such an engine bear that, a lip fitted the wrong way round or a worn one lets air in.`
        : `Below ${c.say.pressure(LIMITS.crankcaseLow)} lip seals run dry and whistle.`,
    fix: restrict(c, s.id, (then) => then.crankcaseGauge > LIMITS.crankcaseLow),
  }
}

export const crankcasePressure: Rule = {
  id: 'crankcase-pressure',
  judge: (c) => {
    const high = maxBy(
      c.solved.filter((s) => s.crankcaseGauge > LIMITS.crankcaseWarm),
      (s) => s.crankcaseGauge,
    )
    const low = maxBy(
      c.solved.filter((s) => s.crankcaseGauge < LIMITS.crankcaseLow),
      (s) => -s.crankcaseGauge,
    )
    const found = [...(high ? [tooHigh(c, high)] : []), ...(low ? [tooLow(c, low)] : [])]
    const top = maxBy(c.solved, (s) => s.crankcaseGauge)
    if (found.length > 0 || !top) return found
    return [
      {
        subject: 'good',
        severity: 'ok',
        at: { station: 'circuit', state: top.id },
        title:
          top.crankcaseGauge >= 0
            ? 'Crankcase pressure is good in every state'
            : `Crankcase under ${c.solved.every((s) => s.crankcaseGauge > SLIGHT) ? 'slight ' : ''}vacuum in every state`,
        why:
          Math.abs(top.crankcaseGauge) < A_GAUGE
            ? `Highest ${atState(top.id)}, as near to the pressure outside as a gauge tells.`
            : `Highest ${c.say.signed(top.crankcaseGauge)}, ${atState(top.id)}.`,
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

export const hoseVelocity: Rule = {
  id: 'velocity',
  judge: (c) => {
    const over = (s: SolvedState, line: Line) => (s.passages[line.id]?.velocity ?? 0) / filmLimit(c, s, line.id)
    return hosesOf(c).flatMap((line): Finding[] => {
      const wet = c.solved.filter((s) => oilSum(s.passages[line.id]?.oil) > 1e-9)
      const s = maxBy(wet, (x) => over(x, line))
      const ratio = s ? over(s, line) : 0
      // what the maker accepts is no finding: his hose stands as he laid it
      if (!s || ratio <= 1 || asTheMakerLaid(c, line)) return []
      const v = s.passages[line.id]!.velocity
      const bore = nextBores(line.boreMm).find((b) => ratio * (line.boreMm / b.mm) ** 2 <= 1)
      return [
        {
          subject: line.id,
          severity: ratio > LIMITS.wetVelocityFix ? 'fix' : 'watch',
          amount: ratio,
          at: { station: 'circuit', line: line.id, state: s.id },
          title: `${line.name} runs at ${c.say.speed(v)} ${atState(s.id)}`,
          why: `Above ${c.say.speed(v / ratio)} gas of this density drags the oil film along the wall instead of letting it drain back.`,
          fix:
            bore &&
            c.fix(
              `Make the ${loweredName(line)} ${c.say.mm(bore.mm)} (${bore.name})`,
              setLine(line.id, { boreMm: bore.mm }),
            ),
        },
      ]
    })
  },
}
