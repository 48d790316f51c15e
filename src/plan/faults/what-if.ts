/** What happens when something fails: one change to the circuit, tried and never saved. */
import type { Job } from '@/core/job'
import { quantityText } from '@/core/units/format'
import { analyse, figuresOf } from '../analyse'
import type { Analysis, SolvedState } from '../model/results'
import type { Build, Line, Part, Variant } from '../document/schema'
import { KINDS } from '../document/kinds'
import { activeVariant, freshId } from '../edit/edit'
import { port, space } from '../schools/parts'
import { LIMITS } from '../verdicts/limits'
import { bypassShare } from '../verdicts/rules'
import { isSolved, STATE_NAMES, type Severity } from '../verdicts/verdict'

export type Fault = {
  readonly id: string
  readonly name: string
  /** part or line that fails */ readonly of: string
  readonly change: (variant: Variant) => Variant
}

const part =
  (id: string, change: (p: Part) => Part) =>
  (v: Variant): Variant => ({ ...v, parts: v.parts.map((p) => (p.id === id ? change(p) : p)) })
const line =
  (id: string, change: (l: Line) => Line) =>
  (v: Variant): Variant => ({ ...v, lines: v.lines.map((l) => (l.id === id ? change(l) : l)) })

/** A hose off its first end: what it came from breathes into the open, and so does the hose. */
const pulledOff =
  (l: Line) =>
  (v: Variant): Variant => {
    const hole = (id: string) => space('atmosphere', freshId(v, id), 'Open end', port('a', 'Open'), port('b', 'Open'))
    const air = hole(`${l.id}-open`)
    const stub: Line = {
      ...l,
      id: `${l.id}-stub`,
      name: `${l.name}, open nipple`,
      to: { part: air.id, port: 'a' },
      lengthMm: 30,
      bends: [],
    }
    return {
      ...v,
      parts: [...v.parts, air],
      lines: [...v.lines.map((x) => (x === l ? { ...l, from: { part: air.id, port: 'b' } } : x)), stub],
    }
  }

/** Every single failure that this circuit can have. */
export function faultsOf(variant: Variant): readonly Fault[] {
  const list: Fault[] = []
  const add = (id: string, of: string, name: string, change: Fault['change']) => list.push({ id, of, name, change })
  for (const p of variant.parts) {
    if (KINDS[p.kind].valve) {
      add(
        `${p.id}-open`,
        p.id,
        `${p.name} stuck open`,
        part(p.id, (q) => ({ ...q, stuck: 'open' }) as Part),
      )
      add(
        `${p.id}-shut`,
        p.id,
        `${p.name} stuck shut`,
        part(p.id, (q) => ({ ...q, stuck: 'shut' }) as Part),
      )
    }
    if (p.kind === 'restrictor')
      add(
        `${p.id}-frozen`,
        p.id,
        `${p.name} frozen or blocked`,
        part(p.id, (q) => ({ ...q, boreMm: 0 }) as Part),
      )
    if (p.kind === 'can')
      add(
        `${p.id}-frozen`,
        p.id,
        `${p.name} frozen or clogged`,
        part(p.id, (q) => ({ ...q, dropKpaAt100: 50 }) as Part),
      )
    if (p.kind === 'filter')
      add(
        `${p.id}-blocked`,
        p.id,
        `${p.name} blocked`,
        part(p.id, (q) => ({ ...q, fouling: 20, dropKpaAt100: Math.max(1, p.dropKpaAt100 * 5) }) as Part),
      )
    if (p.kind === 'pump')
      add(
        `${p.id}-stopped`,
        p.id,
        `${p.name} stopped`,
        part(p.id, (q) => ({ ...q, stuck: 'shut' }) as Part),
      )
  }
  for (const l of variant.lines) {
    if (l.kind !== 'hose') continue
    add(`${l.id}-off`, l.id, `${l.name} pulled off`, pulledOff(l))
    add(
      `${l.id}-flat`,
      l.id,
      `${l.name} collapsed`,
      line(l.id, (x) => ({ ...x, boreMm: Math.max(1, x.boreMm * 0.3) })),
    )
  }
  return list
}

/** The build with a failure in its active circuit. */
export function withFault(build: Build, id: string): Build | undefined {
  const fault = faultsOf(activeVariant(build)).find((f) => f.id === id)
  return fault && broken(build, fault)
}
const broken = (build: Build, fault: Fault): Build => {
  const variant = activeVariant(build)
  return { ...build, variants: build.variants.map((v) => (v === variant ? fault.change(v) : v)) }
}

export type Outcome = {
  readonly id: string
  readonly name: string
  readonly of: string
  readonly severity: Severity
  readonly says: string
  /** for ordering, larger is worse */ readonly weight: number
  readonly state: SolvedState['id'] | undefined
}

/** What a failure does, told by the worst of what it does. */
function outcomeOf(build: Build, before: Omit<Analysis, 'verdicts'>, fault: Fault, say: Say): Outcome {
  const then = broken(build, fault)
  const after = figuresOf(then, '2026-01-01')
  const base = { id: fault.id, name: fault.name, of: fault.of }
  const lost = after.states.find((s) => !s.solved)
  const solved = after.states.filter(isSolved)
  const parts = activeVariant(then).parts
  const found: { severity: Severity; says: string; weight: number; state: SolvedState['id'] | undefined }[] = []
  if (lost)
    found.push({
      severity: 'stop',
      weight: 900,
      state: lost.id,
      says: `Gas has no way out ${inState(lost.id)}: the weakest seal becomes the vent.`,
    })
  for (const s of solved) {
    const boost = Math.max(0, ...parts.filter((p) => (s.gauge[p.id] ?? 0) > 1000).map((p) => -(s.into[p.id]?.gas ?? 0)))
    if (boost > 1e-5)
      found.push({
        severity: 'stop',
        weight: 700 + 1e4 * boost,
        state: s.id,
        says: `${say.flow(boost)} of boost blows into the crankcase, which comes to ${say.pressure(s.crankcaseGauge)}; it carries oil to the inlet tract.`,
      })
    if (s.crankcaseGauge > LIMITS.crankcaseHigh)
      found.push({
        severity: 'stop',
        weight: 500 + Math.min(150, s.crankcaseGauge / 500),
        state: s.id,
        says: `The crankcase rises to ${say.pressure(s.crankcaseGauge)} ${inState(s.id)}: seals are blown out.`,
      })
    if (s.crankcaseGauge < LIMITS.crankcaseTooLow)
      found.push({
        severity: 'stop',
        weight: 300 - s.crankcaseGauge / 1000,
        state: s.id,
        says: `The crankcase is sucked down to ${say.pressure(s.crankcaseGauge)} ${inState(s.id)}: lip seals turn inwards.`,
      })
    if (s.id === 'idle') {
      const bypass = bypassShare(s, parts)
      const was = before.states.filter(isSolved).find((x) => x.id === 'idle')
      if (bypass > LIMITS.idleBypass && (!was || bypass > bypassShare(was, activeVariant(build).parts) + 0.05))
        found.push({
          severity: 'fix',
          weight: 200 + 100 * bypass,
          state: 'idle',
          says: `${Math.round(100 * bypass)} % of idle air passes the throttle by: idle surges, trims go lean.`,
        })
    }
  }
  const more = after.intakeOil - before.intakeOil
  if (more > 0.2 * before.intakeOil && more * 1e12 > 3)
    found.push({
      severity: 'fix',
      weight: 100 + more * 1e12,
      state: undefined,
      says: `Oil to the intake rises from ${say.volume(before.intakeOil * 1e6)} to ${say.volume(after.intakeOil * 1e6)} per 1 000 km.`,
    })
  const opened = solved.find((s) => Object.entries(s.into).some(([id, x]) => id.endsWith('-open') && x.gas > 1e-6))
  if (opened)
    found.push({
      severity: 'watch',
      weight: 60,
      state: opened.id,
      says: 'Oily gas blows into the engine bay: smell, then drips, on hot exhaust a fire.',
    })
  const worst = found.toSorted((a, b) => b.weight - a.weight)[0]
  return worst
    ? { ...base, ...worst }
    : {
        ...base,
        severity: 'ok',
        weight: 0,
        state: undefined,
        says: 'Nothing that matters: the rest of the circuit copes.',
      }
}
const inState = (id: SolvedState['id']) =>
  `${id === 'pull' || id === 'boost' || id === 'overrun' ? 'in' : 'at'} ${STATE_NAMES[id].toLowerCase()}`

type Say = {
  readonly flow: (kg: number) => string
  readonly pressure: (pa: number) => string
  readonly volume: (m3: number) => string
}

/** Every failure of the active circuit, worst first. Yields the share done. */
export function* failures(build: Build): Job<readonly Outcome[]> {
  const say = sayIn(build)
  const before = figuresOf(build, '2026-01-01')
  const faults = faultsOf(activeVariant(build))
  const all: Outcome[] = []
  for (const [i, fault] of faults.entries()) {
    all.push(outcomeOf(build, before, fault, say))
    yield (i + 1) / faults.length
  }
  return all.toSorted((a, b) => b.weight - a.weight)
}

/** The analysis with a failure, for the screens; undefined when there is no such failure in this circuit. */
export function analyseFault(build: Build, id: string, today: string): Analysis | undefined {
  const then = withFault(build, id)
  if (!then) return undefined
  const analysis = analyse(then, today)
  // that the valve is stuck is what is being tried, not a slip of the plan
  return { ...analysis, verdicts: analysis.verdicts.filter((v) => v.rule !== 'stuck-valve') }
}

function sayIn(build: Build): Say {
  const text = (si: number, d: 'gasFlow' | 'pressure' | 'volume') => quantityText(si, d, build.units, 2)
  return {
    flow: (kg) => text(kg, 'gasFlow'),
    pressure: (pa) => (pa > 0 ? '+' : '') + text(pa, 'pressure'),
    volume: (m3) => text(m3, 'volume'),
  }
}
