/** The slips of plumbing: how things are joined, turned and left, rather than how big they are. */
import { ACTIVITIES } from '@/core/service/rates'
import { isThrough } from '../document/kinds'
import type { Part } from '../document/schema'
import { atState, inState, say, signed, worst, type Finding } from './tell'
import type { Rule } from './verdict'

const SHUT = 1e-7
const lower = (p: Part | undefined) => p?.name.toLowerCase() ?? 'it'

/** In and out swapped: a can whose gas runs from `out` to `in` in the states in which it carries most. */
const canSwapped: Rule = {
  id: 'can-swapped',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'can') return []
      const s = worst(
        c.solved.filter((x) => (x.passages[p.id]?.flow ?? 0) < -1e-6),
        (x) => -(x.passages[p.id]?.flow ?? 0),
      )
      const onwards = Math.max(0, ...c.solved.map((x) => x.passages[p.id]?.flow ?? 0))
      const oily = s && s.passages[p.id]!.oil.mist + s.passages[p.id]!.oil.splash > 1e-9
      if (!s || !oily || -s.passages[p.id]!.flow < onwards) return []
      return [
        {
          subject: p.id,
          severity: 'fix',
          at: { station: 'circuit', part: p.id, state: s.id },
          title: `${p.name} is plumbed the wrong way round`,
          why: `${say(c).flow(-s.passages[p.id]!.flow)} enters by its outlet ${inState(s.id)}: the gas picks up what the bowl holds instead of leaving it there.`,
          fix: { label: `Swap in and out of the ${lower(p)}`, edits: [{ op: 'turn', part: p.id }] },
        },
      ]
    }),
}

/** A one-way valve that opens in no state: fitted against the gas, or against nothing. */
const valveIdle: Rule = {
  id: 'valve-idle',
  judge: (c) =>
    c.solved.length === 0
      ? []
      : c.variant.parts.flatMap((p): Finding[] => {
          if (p.kind !== 'check' && p.kind !== 'pcv') return []
          if (p.stuck || c.analysis.engine.states.length > c.solved.length) return []
          if (
            !c.variant.lines.some((l) => l.from.part === p.id || l.to.part === p.id) ||
            c.solved.some((s) => Math.abs(s.passages[p.id]?.flow ?? 0) > SHUT)
          )
            return []
          // which way gas would go, were it turned round
          const turned = c.tryOut([{ op: 'turn', part: p.id }], 'idle')
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
              fix: helps ? { label: `Turn the ${lower(p)} round`, edits: [{ op: 'turn', part: p.id }] } : undefined,
            },
          ]
        }),
}

/** Air from outside that reaches the manifold without being metered: a vacuum source on a vented can, a port left open. */
const vacuumLeak: Rule = {
  id: 'vacuum-leak',
  judge: (c) => {
    const s = worst(
      c.solved.filter((x) => c.variant.parts.some((p) => p.kind === 'manifold' && (x.into[p.id]?.gas ?? 0) > 1e-6)),
      (x) =>
        c.variant.parts.reduce((m, p) => m + (p.kind === 'atmosphere' ? Math.max(0, -(x.into[p.id]?.gas ?? 0)) : 0), 0),
    )
    if (!s) return []
    const air = c.variant.parts.filter((p) => p.kind === 'atmosphere' && (s.into[p.id]?.gas ?? 0) < -1e-6)
    const leak = air.reduce((m, p) => m - s.into[p.id]!.gas, 0)
    const share = s.operating.airKgS > 0 ? leak / s.operating.airKgS : 0
    if (share < 0.01) return []
    const can = c.variant.parts.find((p) => p.kind === 'can')
    return [
      {
        subject: air[0]!.id,
        severity: share > 0.05 ? 'stop' : 'fix',
        at: { station: 'circuit', part: air[0]!.id, state: s.id },
        title: `${say(c).flow(leak)} of air leaks into the manifold ${atState(s.id)}`,
        why: `${Math.round(share * 100)} % of engine air comes in unmetered through the ${lower(air[0])}. ${can ? `A vented ${lower(can)} and a vacuum source do not go together: plug the vacuum port, or close the vent.` : 'A port is left open.'} Expect a lean code and a high idle.`,
      },
    ]
  },
}

/** Breathes into the open on a car that sees public roads. */
const ventedStreet: Rule = {
  id: 'vented-street',
  judge: (c) => {
    const { hours } = c.build.duty
    const road = hours.street + hours.motorway + hours.mountain + hours.towing + hours.shortCold
    const s = worst(c.solved, (x) =>
      c.variant.parts.reduce((m, p) => m + (p.kind === 'atmosphere' ? Math.max(0, x.into[p.id]?.gas ?? 0) : 0), 0),
    )
    const open = s && c.variant.parts.find((p) => p.kind === 'atmosphere' && (s.into[p.id]?.gas ?? 0) > 1e-6)
    if (!open || !s) return []
    if (road === 0)
      return [
        {
          subject: 'track',
          severity: 'ok',
          at: { station: 'circuit', part: open.id },
          title: 'Vents to the open, on closed courses alone',
          why: 'No hours on public roads are planned. The rulebook decides on catch tank, hose and filter.',
        },
      ]
    return [
      {
        subject: open.id,
        severity: 'watch',
        at: { station: 'circuit', part: open.id, state: s.id },
        title: `${say(c).flow(s.into[open.id]!.gas)} of crankcase gas goes into the open ${inState(s.id)}`,
        why: 'The crankcase system is an emission control: on public roads it must in many places stay sealed and unmodified. Ask the local authority before this sees the road; smell and oil mist in the cabin come with it.',
      },
    ]
  },
}

/** Catch capacity of a race plan against the class rule, which the builder enters from the rulebook. */
const catchRule: Rule = {
  id: 'catch-rule',
  judge: (c) => {
    const { hours, catchRuleMl } = c.build.duty
    const race = hours.track + hours.drag > 0.5 * ACTIVITIES.reduce((s, a) => s + hours[a], 0)
    const vented = c.variant.parts.some((p) => p.kind === 'atmosphere')
    if (!race || (!vented && catchRuleMl === undefined)) return []
    const rule = catchRuleMl ?? exampleRuleMl(c.build.engine.displacementCc)
    const bowls = c.variant.parts.flatMap((p) => (p.kind === 'can' && !p.drain ? [p] : []))
    const sum = bowls.reduce((s, p) => s + p.bowlMl, 0)
    const whose =
      catchRuleMl === undefined
        ? 'An example from memory, not your rulebook: enter yours at Engine, use.'
        : 'As you entered it; the rulebook decides.'
    const [have, need] = [say(c).volume(sum * 1e-6), say(c).volume(rule * 1e-6)]
    if (sum >= rule)
      return [
        {
          subject: 'met',
          severity: 'ok',
          at: { station: 'circuit' },
          title: `Catches ${have}, the class asks for ${need}`,
          why: whose,
        },
      ]
    const largest = worst(bowls, (p) => p.bowlMl)
    return [
      {
        subject: 'short',
        severity: 'fix',
        at: { station: 'circuit', ...(largest ? { part: largest.id } : {}) },
        title: `Catches ${have}; the class asks for ${need}`,
        why: `Scrutineers measure the catch tank. ${whose}`,
        fix: largest && {
          label: `Take a ${largest.name.toLowerCase()} of ${say(c).volume((largest.bowlMl + rule - sum) * 1e-6)}`,
          edits: [{ op: 'part', part: largest.id, set: { bowlMl: largest.bowlMl + rule - sum, model: 'own' } }],
        },
      },
    ]
  },
}
/** Shipped as an example, from memory: two litres to two litres of engine, three above. */
export const exampleRuleMl = (displacementCc: number): number => (displacementCc <= 2000 ? 2000 : 3000)

/** A valve that the plan itself has stuck. */
const stuckValve: Rule = {
  id: 'stuck-valve',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] =>
      'stuck' in p && p.stuck
        ? [
            {
              subject: p.id,
              severity: 'stop',
              at: { station: 'circuit', part: p.id },
              title: `${p.name} is set stuck ${p.stuck}`,
              why: 'This is saved in the plan, so every number here is that of a fault.',
              fix: { label: 'Let it work again', edits: [{ op: 'part', part: p.id, set: { stuck: undefined } }] },
            },
          ]
        : [],
    ),
}

/** A sensor that another plan of this build has and this one has lost with its line. */
const sensorLost: Rule = {
  id: 'sensor-lost',
  judge: (c) => {
    const here = c.variant.parts.filter((p) => p.kind === 'sensor').length
    const most = Math.max(0, ...c.build.variants.map((v) => v.parts.filter((p) => p.kind === 'sensor').length))
    return here >= most
      ? []
      : [
          {
            subject: 'lost',
            severity: 'fix',
            at: { station: 'circuit' },
            title: 'A pressure sensor has been left out',
            why: 'Another plan of this build has one in its breather line. Without it the engine computer sets a code; extend its harness and put it in the new line.',
          },
        ]
  },
}

/** A port of a can or valve with no line on it: on a can it is an open hole unless it is plugged. */
const portOpen: Rule = {
  id: 'port-open',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (!isThrough(p.kind) || p.kind === 'passage') return []
      const joined = (id: string) =>
        c.variant.lines.some((l) => [l.from, l.to].some((e) => e.part === p.id && e.port === id))
      const [into, out] = [joined('in'), joined('out')]
      if (into === out) return []
      return [
        {
          subject: p.id,
          severity: 'watch',
          at: { station: 'circuit', part: p.id },
          title: `${p.name} has its ${into ? 'outlet' : 'inlet'} capped`,
          why: 'It is reckoned as plugged, so no gas passes. Left open on the car it is a vacuum leak or a vent.',
        },
      ]
    }),
}

/** A relief cap, pump or extractor beside a sealed circuit: what it opens to. */
const reliefShut: Rule = {
  id: 'relief-open',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (p.kind !== 'relief') return []
      const s = worst(
        c.solved.filter((x) => Math.abs(x.passages[p.id]?.flow ?? 0) > SHUT),
        (x) => x.passages[p.id]!.flow,
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
          title: `${p.name} opens ${inState(s.id)}`,
          why: `${say(c).flow(s.passages[p.id]!.flow)} blows through it with the crankcase at ${signed(c, s.crankcaseGauge)}: it is working as a vent, not as a guard.`,
        },
      ]
    }),
}

/** Two pictures of one engine: a breather line that joins what the engine already joins is a loop that does nothing. */
const dryCan: Rule = {
  id: 'dry-can',
  judge: (c) =>
    c.solved.length < c.analysis.engine.states.length
      ? []
      : c.variant.parts.flatMap((p): Finding[] => {
          if (p.kind !== 'can' || !c.variant.lines.some((l) => l.from.part === p.id || l.to.part === p.id)) return []
          const oily = c.solved.some(
            (s) =>
              Math.abs(s.passages[p.id]?.flow ?? 0) > 1e-6 &&
              s.passages[p.id]!.oil.mist + s.passages[p.id]!.oil.splash > 1e-9,
          )
          return oily
            ? []
            : [
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

export const PLUMBING_RULES: readonly Rule[] = [
  canSwapped,
  valveIdle,
  vacuumLeak,
  ventedStreet,
  catchRule,
  stuckValve,
  sensorLost,
  portOpen,
  reliefShut,
  dryCan,
]
