/** The road's law and the rulebook's. */
import { roadHours } from '@/core/service/rates'
import { setPart } from '../../edit/edit-builders'
import { atState, loweredName } from '../../document/words'
import type { SolvedState } from '../../model/results'
import { maxBy } from '../plan-queries'
import type { Finding, Rule } from '../verdict'

/** Breathes into the open on a car that sees public roads. */
export const ventedStreet: Rule = {
  id: 'vented-street',
  judge: (c) => {
    const openAir = c.variant.parts.filter((p) => p.kind === 'atmosphere')
    const leaving = (s: SolvedState) => openAir.reduce((m, p) => m + Math.max(0, s.into[p.id]?.gas ?? 0), 0)
    const s = maxBy(c.solved, leaving)
    const open = s && openAir.find((p) => (s.into[p.id]?.gas ?? 0) > 1e-6)
    if (!open) return []
    if (roadHours(c.build.duty.hours) === 0)
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
        severity: 'fix',
        amount: s.into[open.id]!.gas,
        at: { station: 'circuit', part: open.id, state: s.id },
        title: `${c.say.flow(s.into[open.id]!.gas)} of crankcase gas goes into the open ${atState(s.id)}`,
        why: 'The crankcase system is an emission control: on public roads it must in many places stay sealed and unmodified. Ask the local authority before this sees the road; smell and oil mist in the cabin come with it.',
      },
    ]
  },
}

/** Catch capacity of a race plan against the class rule, which the builder enters from the rulebook. */
export const catchRule: Rule = {
  id: 'catch-rule',
  judge: (c) => {
    const { catchRuleMl } = c.build.duty
    if (catchRuleMl === undefined) return []
    const rule = catchRuleMl
    const bowls = c.variant.parts.flatMap((p) => (p.kind === 'can' && !p.drain ? [p] : []))
    const sum = bowls.reduce((s, p) => s + p.bowlMl, 0)
    const ml = (v: number) => c.say.volume(v * 1e-6)
    const whose = 'As you entered it; the rulebook decides.'
    if (sum >= rule)
      return [
        {
          subject: 'met',
          severity: 'ok',
          at: { station: 'circuit' },
          title: `Catches ${ml(sum)}, the class asks for ${ml(rule)}`,
          why: whose,
        },
      ]
    const largest = maxBy(bowls, (p) => p.bowlMl)
    const bowlMl = (largest?.bowlMl ?? 0) + rule - sum
    return [
      {
        subject: 'short',
        severity: 'fix',
        at: { station: 'circuit', ...(largest ? { part: largest.id } : {}) },
        title: `Catches ${ml(sum)}; the class asks for ${ml(rule)}`,
        why: `Scrutineers measure the catch tank. ${whose}`,
        fix:
          largest &&
          c.fix(`Take a ${loweredName(largest)} of ${ml(bowlMl)}`, setPart(largest.id, { bowlMl, model: 'own' })),
      } satisfies Finding,
    ]
  },
}
