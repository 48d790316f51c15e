/** The rules, in the order of the gas's way. Each looks at the whole analysis and says nothing when it has nothing to say. */
import { OIL_POURED } from '@/core/gas/oil'
import type { StateId } from '@/core/engine/states'
import { fullLoadState } from '@/core/engine/states'
import { volumeRange } from '@/core/pulsation/crankcase'
import { checkFor, CHECKS, entryOf, HOSE_BORES } from '../catalogue/catalogue'
import { isBreather, isIntake, KINDS } from '../document/kinds'
import type { Line, Part } from '../document/schema'
import type { Edit } from '../edit/edit'
import type { SolvedState } from '../model/results'
import { check as checkPart, restrictor } from '../schools/parts'
import { pulsates, pumpingOf } from '../model/engine'
import { gasDensity, type GasResult } from '../model/states'
import { judgeCrankcase, LIMITS } from './limits'
import { PLUMBING_RULES } from './plumbing-rules'
import { SERVICE_RULES } from './service-rules'
import { atState, hosesOf, inState, say, signed, worst, type Finding } from './tell'
import { STATE_NAMES, type Case, type Rule } from './verdict'

const nextBores = (mm: number) => HOSE_BORES.filter((b) => b.mm > mm + 0.05)
const fullLoad = (c: Case) => c.state(fullLoadState(c.build.engine.induction))

const notSolved: Rule = {
  id: 'not-solved',
  judge: (c) =>
    c.analysis.states.flatMap((s): Finding[] =>
      s.solved
        ? []
        : [
            {
              subject: s.id,
              severity: 'stop',
              title: `${STATE_NAMES[s.id]} has no answer`,
              why: s.reason,
              at: { station: 'circuit', state: s.id },
            },
          ],
    ),
}

/**
 * The hose whose larger bore brings the state's crankcase pressure to `good`, with the smallest step that does; else the first that is at
 * least `better`. Each try is solved, so only the two hoses that lose most are widened, by up to four steps.
 */
function widen(
  c: Case,
  state: StateId,
  good: (gauge: number) => boolean,
  better: (gauge: number) => boolean,
): Finding['fix'] {
  const s = c.state(state)
  if (!s) return undefined
  const carrying = hosesOf(c)
    .filter((l) => Math.abs(s.passages[l.id]?.flow ?? 0) > 1e-6)
    .toSorted((x, y) => Math.abs(drop(s, y)) - Math.abs(drop(s, x)))
    .slice(0, 2)
  let second: Finding['fix']
  for (const line of carrying) {
    for (const bore of nextBores(line.boreMm).slice(0, 4)) {
      const edits: Edit[] = [{ op: 'line', line: line.id, set: { boreMm: bore.mm } }]
      const then = c.tryOut(edits, state)
      if (!then) continue
      const fix = { label: `Make the ${line.name.toLowerCase()} ${say(c).length(bore.mm)} (${bore.name})`, edits }
      if (good(then.crankcaseGauge)) return fix
      if (!second && better(then.crankcaseGauge)) second = fix
    }
  }
  return second
}
const drop = (s: SolvedState, l: Line) => {
  const p = s.passages[l.id]
  return p ? p.gaugeFrom - p.gaugeTo : 0
}

const crankcasePressure: Rule = {
  id: 'crankcase-pressure',
  judge: (c) => {
    const high = worst(
      c.solved.filter((s) => s.crankcaseGauge > LIMITS.crankcaseWarm),
      (s) => s.crankcaseGauge,
    )
    const low = worst(
      c.solved.filter((s) => s.crankcaseGauge < LIMITS.crankcaseLow),
      (s) => -s.crankcaseGauge,
    )
    const found: Finding[] = []
    if (high) {
      const stop = judgeCrankcase(high.crankcaseGauge) === 'stop'
      found.push({
        subject: 'high',
        severity: stop ? 'stop' : 'watch',
        at: { station: 'circuit', state: high.id },
        title: `Crankcase at ${signed(c, high.crankcaseGauge)} ${atState(high.id)}`,
        why: stop
          ? 'Above +2 kPa for long, seals weep or blow out and the dipstick lifts. The way out is too narrow for the blow-by.'
          : 'Any pressure above the surroundings pushes oil at seals and gaskets. The way out is a little narrow.',
        fix: widen(
          c,
          high.id,
          (g) => g < 0,
          (g) => g < LIMITS.crankcaseHigh && g < 0.6 * high.crankcaseGauge,
        ),
      })
    }
    if (low) {
      const stop = judgeCrankcase(low.crankcaseGauge) === 'stop'
      found.push({
        subject: 'low',
        severity: stop ? 'stop' : 'watch',
        at: { station: 'circuit', state: low.id },
        title: `Crankcase at ${signed(c, low.crankcaseGauge)} ${atState(low.id)}`,
        why: stop
          ? 'Below −8 kPa standard lip seals are sucked inwards, run dry and let air in.'
          : 'Below −5 kPa lip seals run dry and whistle.',
        fix: restrict(c, low.id, (s) => s.crankcaseGauge > LIMITS.crankcaseLow),
      })
    }
    if (found.length === 0 && c.solved.length > 0) {
      const top = worst(c.solved, (s) => s.crankcaseGauge)!
      found.push({
        subject: 'good',
        severity: 'ok',
        at: { station: 'circuit', state: top.id },
        title:
          top.crankcaseGauge < 0
            ? 'Crankcase under slight vacuum in every state'
            : 'Crankcase pressure is good in every state',
        why: `Highest ${signed(c, top.crankcaseGauge)}, ${inState(top.id)}.`,
      })
    }
    return found
  },
}

/** Where boost comes in: boundaries that stand above the surroundings and feed gas into the circuit. */
function boostEntries(c: Case): { state: SolvedState; part: Part; flow: number }[] {
  return c.solved.flatMap((s) =>
    c.variant.parts.flatMap((p) => {
      const into = s.into[p.id]
      const gauge = s.gauge[p.id] ?? 0
      return into && gauge > 1000 && into.gas < -1e-6 ? [{ state: s, part: p, flow: -into.gas }] : []
    }),
  )
}

/** The line at a part, spliced with a check valve that lets gas run only towards it. */
function fitCheck(c: Case, partId: string): Finding['fix'] {
  const line = c.variant.lines.find((l) => l.from.part === partId || l.to.part === partId)
  if (!line || line.kind !== 'hose') return undefined
  const towards = line.to.part === partId
  const size = checkFor(line.boreMm)
  const part = checkPart('check', 'Check valve', size)
  return {
    label: `Fit a check valve, ${entryOf(CHECKS, size).name}, at the ${c.part(partId)?.name.toLowerCase()}`,
    edits: [{ op: 'splice', line: line.id, part, near: towards ? 'to' : 'from', reversed: !towards }],
  }
}

const boostInCrankcase: Rule = {
  id: 'boost-in-crankcase',
  judge: (c) => {
    const entry = worst(boostEntries(c), (e) => e.flow)
    if (entry) {
      return [
        {
          subject: entry.part.id,
          severity: 'stop',
          at: { station: 'circuit', part: entry.part.id, state: entry.state.id },
          title: `${say(c).flow(entry.flow)} of boost blows back into the crankcase`,
          why: `From the ${entry.part.name.toLowerCase()}, which stands at ${signed(c, entry.state.gauge[entry.part.id] ?? 0)} ${inState(entry.state.id)}. It ${entry.state.crankcaseGauge > LIMITS.crankcaseHigh ? `lifts the crankcase to ${signed(c, entry.state.crankcaseGauge)}, which blows seals out` : `brings the crankcase to ${signed(c, entry.state.crankcaseGauge)}`}, and carries oil to the inlet tract.`,
          fix: fitCheck(c, entry.part.id),
        },
      ]
    }
    const boosted = c.state('boost')
    return boosted &&
      c.build.engine.boostKpa > 0 &&
      c.variant.parts.some((p) => p.kind === 'manifold' || p.kind === 'chargePipe')
      ? [
          {
            subject: 'none',
            severity: 'ok',
            at: { station: 'circuit', state: 'boost' },
            title: 'No boost reaches the crankcase',
            why: `Whatever stands against ${signed(c, boosted.operating.manifoldPa - c.analysis.engine.amb.pressurePa)} holds.`,
          },
        ]
      : []
  },
}

const canSeesBoost: Rule = {
  id: 'can-sees-boost',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can') return []
      const s = worst(c.solved, (x) => Math.max(x.gauge[`${p.id}.in`] ?? 0, x.gauge[`${p.id}.out`] ?? 0))
      const gauge = s ? Math.max(s.gauge[`${p.id}.in`] ?? 0, s.gauge[`${p.id}.out`] ?? 0) : 0
      if (!s || gauge <= LIMITS.canPressure) return []
      // the boundary nearest to it in pressure is the one that pushes
      const pusher = worst(
        c.variant.parts.filter((q) => (s.gauge[q.id] ?? 0) >= gauge - 1 && isIntake(q.kind)),
        (q) => s.gauge[q.id] ?? 0,
      )
      return [
        {
          subject: p.id,
          severity: 'fix',
          at: { station: 'circuit', part: p.id, state: s.id },
          title: `${p.name} sees ${signed(c, gauge)} ${inState(s.id)}`,
          why: `Lid seal, sight tube and push-on hoses are made for suction. Boost stands in it from the ${(pusher?.name ?? 'intake').toLowerCase()} because nothing on that side holds it back.`,
          fix: pusher ? fitCheck(c, pusher.id) : undefined,
        },
      ]
    }),
}

/** A restrictor ahead of the manifold that brings `good` at the least cost: bores from 8 mm down. */
function restrict(c: Case, state: StateId, good: (s: GasResult) => boolean): Finding['fix'] {
  const manifold = c.variant.parts.find((p) => p.kind === 'manifold')
  const line =
    manifold &&
    c.variant.lines.find((l) => l.kind === 'hose' && (l.from.part === manifold.id || l.to.part === manifold.id))
  if (!manifold || !line) return undefined
  const towards = line.to.part === manifold.id
  for (let mm = 8; mm >= 1; mm = Math.round((mm - 0.2) * 10) / 10) {
    const edits: Edit[] = [
      {
        op: 'splice',
        line: line.id,
        part: restrictor('restrictor', 'Restrictor', mm),
        near: towards ? 'to' : 'from',
        reversed: !towards,
      },
    ]
    const then = c.tryOut(edits, state)
    if (then && good(then)) return { label: `Fit a ${say(c).length(mm)} restrictor`, edits }
  }
  return undefined
}

/** Share of idle air that enters the manifold through the circuit instead of the throttle. */
export const bypassShare = (s: Pick<GasResult, 'operating' | 'into'>, parts: readonly Part[]): number => {
  const gas = parts
    .filter((p) => p.kind === 'manifold')
    .reduce((sum, p) => sum + Math.max(0, s.into[p.id]?.gas ?? 0), 0)
  return s.operating.airKgS > 0 ? gas / s.operating.airKgS : 0
}

const idleBypass: Rule = {
  id: 'idle-bypass',
  judge: (c) => {
    const s = c.state('idle')
    if (!s) return []
    const share = bypassShare(s, c.variant.parts)
    if (share <= LIMITS.idleBypassWatch) return []
    const flow = share * s.operating.airKgS
    const much = share > LIMITS.idleBypass
    return [
      {
        subject: 'idle',
        severity: much ? 'fix' : 'watch',
        at: { station: 'circuit', part: c.variant.parts.find((p) => p.kind === 'manifold')?.id, state: 'idle' },
        title: `Idle takes ${say(c).flow(flow)} past the throttle`,
        why: `${Math.round(share * 100)} % of idle air. ${much ? 'Idle will surge and trims go lean; tune for it or restrict it.' : 'Idle control must close the throttle by as much; check idle trim after fitting.'}`,
        fix: restrict(
          c,
          'idle',
          (then) =>
            bypassShare(then, [...c.variant.parts]) <= (much ? 0.8 * LIMITS.idleBypass : LIMITS.idleBypassWatch),
        ),
      },
    ]
  },
}

/** Fresh air comes in where something sucks at the crankcase: through any boundary but the manifold. */
const freshAir: Rule = {
  id: 'fresh-air',
  judge: (c) => {
    const s = c.state('idle')
    if (!s) return []
    const sucked = c.variant.parts.some((p) => p.kind === 'manifold' && (s.into[p.id]?.gas ?? 0) > s.blowBy * 0.2)
    const fresh = c.variant.parts.some((p) => isBreather(p.kind) && (s.into[p.id]?.gas ?? 0) < -1e-7)
    if (!sucked) return []
    if (fresh)
      return [
        {
          subject: 'present',
          severity: 'ok',
          at: { station: 'circuit', state: 'idle' },
          title: 'Fresh air sweeps the crankcase at idle',
          why: 'It carries water and fuel off before they turn to sludge.',
        },
      ]
    const balanced = s.crankcaseGauge > LIMITS.crankcaseLow
    return [
      {
        subject: 'missing',
        severity: balanced ? 'watch' : 'stop',
        at: { station: 'circuit', state: 'idle' },
        title: balanced ? 'No fresh air enters at idle' : 'There is no fresh-air path',
        why: balanced
          ? 'The suction takes less than the blow-by, so nothing sweeps the crankcase: water and fuel stay in the oil.'
          : `The manifold sucks at a closed crankcase and draws it to ${signed(c, s.crankcaseGauge)}. A filtered inlet ahead of the throttle is needed.`,
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

const velocity: Rule = {
  id: 'velocity',
  judge: (c) => {
    const over = (s: SolvedState, line: Line) => (s.passages[line.id]?.velocity ?? 0) / filmLimit(c, s, line.id)
    const wet = (s: SolvedState, line: Line) =>
      (s.passages[line.id]?.oil.mist ?? 0) + (s.passages[line.id]?.oil.splash ?? 0) > 1e-9
    return hosesOf(c).flatMap((line): Finding[] => {
      const s = worst(
        c.solved.filter((x) => wet(x, line)),
        (x) => over(x, line),
      )
      if (!s || over(s, line) <= 1) return []
      const v = s.passages[line.id]!.velocity
      const ratio = over(s, line)
      const bore = nextBores(line.boreMm).find((b) => ratio * (line.boreMm / b.mm) ** 2 <= 1)
      return [
        {
          subject: line.id,
          severity: ratio > LIMITS.wetVelocityFix ? 'fix' : 'watch',
          at: { station: 'circuit', line: line.id, state: s.id },
          title: `${line.name} runs at ${say(c).speed(v)} ${atState(s.id)}`,
          why: `Above ${say(c).speed(v / ratio)} gas of this density drags the oil film along the wall instead of letting it drain back.`,
          fix: bore
            ? {
                label: `Make it ${say(c).length(bore.mm)} (${bore.name})`,
                edits: [{ op: 'line', line: line.id, set: { boreMm: bore.mm } }],
              }
            : undefined,
        },
      ]
    })
  },
}

const breatherUnprotected: Rule = {
  id: 'breather-unprotected',
  judge: (c) => {
    const s = fullLoad(c)
    if (!s) return []
    const direct = c.build.engine.injection !== 'port' || c.build.engine.induction !== 'na'
    return hosesOf(c).flatMap((line): Finding[] => {
      const p = s.passages[line.id]
      if (!p || Math.abs(p.flow) < 1e-6) return []
      const ends = p.flow > 0 ? [line.from.part, line.to.part] : [line.to.part, line.from.part]
      const source = c.part(ends[0]!)
      const sink = c.part(ends[1]!)
      if (source?.kind !== 'cover' && source?.kind !== 'crankcase') return []
      if (sink?.kind !== 'inlet' && sink?.kind !== 'chargePipe') return []
      const oil = (p.oil.mist + p.oil.splash) * 3600
      const ml = say(c).volume(oil / OIL_POURED)
      const spliceCan = {
        op: 'splice',
        line: line.id,
        near: 'middle',
        reversed: p.flow < 0,
        part: breatherCan(line.boreMm),
      } as const
      return [
        {
          subject: line.id,
          severity: direct && oil > LIMITS.intakeOilFix ? 'fix' : 'watch',
          at: { station: 'circuit', line: line.id, state: s.id },
          title: `The breather side is unprotected at full load`,
          why: `The ${line.name.toLowerCase()} turns round and takes ${say(c).flow(Math.abs(p.flow))} to the ${sink.name.toLowerCase()}, with about ${ml} of oil an hour that no can has seen.${direct ? '' : ' Port injection washes the valves, so this engine suffers least.'}`,
          fix: { label: 'Put a can in that line', edits: [spliceCan] },
        },
      ]
    })
  },
}
function breatherCan(boreMm: number): Part {
  return {
    kind: 'can',
    id: 'breather-can',
    name: 'Breather can',
    ports: [
      { id: 'in', name: 'In', boreMm },
      { id: 'out', name: 'Out', boreMm },
    ],
    at: undefined,
    model: 'mesh',
    bowlMl: 500,
    dropKpaAt100: 0.25,
    linearPct: 30,
    faceCm2: 50,
    packed: true,
    surfaceCm2: 520,
    stages: [
      { type: 'impactor', jets: 1, jetDiameterMm: 16 },
      { type: 'fibre', fibreUm: 110, solidityPct: 2, thicknessMm: 30, faceCm2: 50 },
    ],
  }
}

/** A single or a twin whose pistons do not cancel pumps its crankcase at every turn; only a one-way valve turns that into suction. */
const pulsation: Rule = {
  id: 'pulsation',
  judge: (c) => {
    const { engine } = c.build
    const { facts, amb } = c.analysis.engine
    if (!pulsates(engine)) return []
    const range = volumeRange(pumpingOf(engine, facts))
    const mean = (range.least + range.most) / 2
    const swing = (1.3 * amb.pressurePa * (range.most - range.least)) / 2 / mean // sealed, closed form for small swings
    if (swing < LIMITS.pulsation) return []
    const valve = c.variant.parts.find(
      (p) => (p.kind === 'check' || p.kind === 'pcv' || p.kind === 'relief') && !p.stuck,
    )
    const at = { station: 'engine' } as const
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
    const line = hosesOf(c).find((l) =>
      [l.from.part, l.to.part].some((id) => c.part(id)?.kind === 'cover' || c.part(id)?.kind === 'crankcase'),
    )
    const outwards = line && ['cover', 'crankcase'].includes(c.part(line.from.part)?.kind ?? '')
    return [
      {
        subject: 'pumping',
        severity: 'watch',
        at: { ...at, ...(line ? { line: line.id } : {}) },
        title: `The pistons pump the crankcase by ±${say(c).pressure(swing)}`,
        why: 'Nothing turns that into suction: gas is breathed out and in again at every turn and carries oil each time. A one-way valve at the breather keeps the crankcase below the pressure outside. Follow a turn under Pulsation.',
        fix: line && {
          label: 'Fit a one-way valve at the breather',
          edits: [
            {
              op: 'splice',
              line: line.id,
              near: outwards ? 'from' : 'to',
              reversed: !outwards,
              part: checkPart('breather-valve', 'Breather valve', checkFor(line.boreMm)),
            },
          ],
        },
      },
    ]
  },
}

const unjoined: Rule = {
  id: 'unjoined',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] =>
      KINDS[p.kind].engine || c.variant.lines.some((l) => l.from.part === p.id || l.to.part === p.id)
        ? []
        : [
            {
              subject: p.id,
              severity: 'watch',
              at: { station: 'circuit', part: p.id },
              title: `${p.name} is joined to nothing`,
              why: 'It takes no part in any number here.',
            },
          ],
    ),
}

export const RULES: readonly Rule[] = [
  notSolved,
  boostInCrankcase,
  canSeesBoost,
  crankcasePressure,
  freshAir,
  idleBypass,
  breatherUnprotected,
  velocity,
  pulsation,
  unjoined,
  ...SERVICE_RULES,
  ...PLUMBING_RULES,
]
