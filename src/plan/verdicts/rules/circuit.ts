/** Whether the circuit is one: solved, joined, nothing left out or stuck. */
import { isBoundary, isThrough, KINDS } from '../../document/kinds'
import type { Line } from '../../document/schema'
import { cut, setPart, splice } from '../../edit/edit-builders'
import { atState, STATE_NAMES, loweredName } from '../../document/words'
import { TRACE } from '../../model/paths'
import { LET_GO, type SolvedState, type StateResult } from '../../model/results'
import { filter } from '../../catalogue/parts'
import { judgeCrankcase } from '../../model/limits'
import { hosesOf, isJoined, maxBy } from '../plan-queries'
import { reverseFix } from '../mend'
import type { Case, Finding, Rule } from '../verdict'

/** What having no answer means on the car, where that is known. */
function noAnswer(s: StateResult & { solved: false }): string {
  if (s.reason === LET_GO) return `Seals let go ${atState(s.id)}`
  if (/no way out/.test(s.reason)) return `Gas finds no way out ${atState(s.id)}`
  return `${STATE_NAMES[s.id]} has no answer`
}

export const notSolved: Rule = {
  id: 'not-solved',
  judge: (c) =>
    c.analysis.states.flatMap((s): Finding[] =>
      s.solved
        ? []
        : [
            {
              subject: s.id,
              severity: 'stop',
              title: noAnswer(s),
              why: s.reason,
              at: { station: 'circuit', state: s.id },
              fix: reverseFix(c, s.id, (then) => judgeCrankcase(then.crankcaseGauge) !== 'stop'),
            },
          ],
    ),
}

export const unjoined: Rule = {
  id: 'unjoined',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] =>
      KINDS[p.kind].engine || isJoined(c, p.id)
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

/** A port of a can or valve with no line on it: on a can it is an open hole unless it is plugged. */
export const portOpen: Rule = {
  id: 'port-open',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      if (!isThrough(p.kind) || p.kind === 'passage') return []
      const joined = (port: string) =>
        c.variant.lines.some((l) => [l.from, l.to].some((e) => e.part === p.id && e.port === port))
      const [into, out] = [joined('in'), joined('out')]
      if (into === out) return []
      return [
        {
          subject: p.id,
          severity: 'watch',
          at: { station: 'circuit', part: p.id },
          title: `${p.name} has its ${into ? 'outlet' : 'inlet'} capped`,
          why: 'It counts as plugged, so no gas passes. Left open on the car it is a vacuum leak or a vent.',
        },
      ]
    }),
}

/** A hose beyond which there is nothing that gas could come from or go to. */
export const deadEnd: Rule = {
  id: 'dead-end',
  judge: (c) =>
    hosesOf(c).flatMap((line): Finding[] => {
      const sides = ([line.from, line.to] as const).map((end) => c.part(end.part)!)
      const blind = sides.find((far, i) => {
        const near = sides[1 - i]!
        // a valve or can with one end joined says so itself
        if (isThrough(far.kind) || far === near) return false
        return !beyond(c, line, far.id)
      })
      if (!blind || !sides.some((p) => beyond(c, line, p.id))) return []
      return [
        {
          subject: line.id,
          severity: 'watch',
          at: { station: 'circuit', line: line.id },
          title: `The ${loweredName(line)} leads nowhere`,
          why: `At the ${loweredName(blind)} it ends, and nothing opens beyond: no gas passes it in any state.`,
          fix: c.fix(`Take the ${loweredName(line)} off`, cut(line.id)),
        },
      ]
    }),
}

/** Whether from a part, without a line, a space of the engine or a place that holds a pressure is reached. */
function beyond(c: Case, without: Line, from: string): boolean {
  const reached = new Set([from])
  for (const id of reached) {
    const kind = c.part(id)!.kind
    if (isBoundary(kind) || kind === 'crankcase' || kind === 'cover' || kind === 'tank') return true
    for (const l of c.variant.lines) {
      if (l === without || l.kind === 'drain') continue
      if (l.from.part === id) reached.add(l.to.part)
      if (l.to.part === id) reached.add(l.from.part)
    }
  }
  return false
}

/** A hose that ends in the open with no filter on it. */
export const openEnd: Rule = {
  id: 'open-end',
  judge: (c) =>
    hosesOf(c).flatMap((line): Finding[] => {
      const air = [line.from, line.to].map((e) => c.part(e.part)).find((p) => p?.kind === 'atmosphere')
      const filtered = [line.from, line.to].some((e) => c.part(e.part)?.kind === 'filter')
      if (!air || filtered) return []
      const out = (s: SolvedState) => (line.to.part === air.id ? 1 : -1) * (s.passages[line.id]?.flow ?? 0)
      const s = maxBy(c.solved, out)
      if (!s || out(s) <= TRACE) return []
      return [
        {
          subject: line.id,
          severity: 'fix',
          amount: out(s),
          at: { station: 'circuit', line: line.id, state: s.id },
          title: `${c.say.flow(out(s))} of oily gas blows into the engine bay`,
          why: `The ${loweredName(line)} ends in the open with no filter, ${atState(s.id)} at its worst: smell, then drips, on hot exhaust a fire.`,
          fix: c.fix(
            `Fit a vent filter on the ${loweredName(line)}`,
            splice(
              line.id,
              filter('vent', 'Vent filter'),
              line.to.part === air.id ? 'to' : 'from',
              line.to.part !== air.id,
            ),
          ),
        },
      ]
    }),
}

/** A valve that the plan itself has stuck. */
export const stuckValve: Rule = {
  id: 'stuck-valve',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] =>
      'stuck' in p && p.stuck
        ? [
            {
              subject: p.id,
              severity: 'stop',
              at: { station: 'circuit', part: p.id },
              title: `${p.name} is set ${p.stuck === 'full' ? 'full' : `stuck ${p.stuck}`}`,
              why: 'This is saved in the plan, so every number here is that of a fault.',
              fix: c.fix('Let it work again', setPart(p.id, { stuck: undefined })),
            },
          ]
        : [],
    ),
}

/** A sensor that another plan of this build has and this one has lost with its line. */
export const sensorLost: Rule = {
  id: 'sensor-lost',
  judge: (c) => {
    const sensors = (parts: typeof c.variant.parts) => parts.filter((p) => p.kind === 'sensor').length
    const most = Math.max(0, ...c.build.variants.map((v) => sensors(v.parts)))
    if (sensors(c.variant.parts) >= most) return []
    return [
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
