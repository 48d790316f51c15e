/** The bay: whether returns drain where they run, and what comes too near to what. */
import { setSpot } from '../../bay/deeds'
import { drainInBay, type BayDrain, type DrainState } from '../../bay/drains'
import { tightGaps } from '../../bay/clearance'
import { spotIn } from '../../bay/geometry'
import type { PartOf } from '../../document/schema'
import { atState } from '../../explain/words'
import { worst, lower } from '../look'
import type { Case, Finding, Fix, Rule } from '../verdict'

/** Head to spare when a separator is raised until it drains, m. */
const SPARE = 0.02

/** The separator higher by what is missing. */
function raise(c: Case, can: PartOf<'can'>, missing: number): Fix | undefined {
  const spot = spotIn(c.build.bay, can.id)
  if (!spot) return undefined
  const mm = Math.ceil((missing + SPARE) * 1000)
  return c.fix(
    `Raise the ${lower(can)} by ${c.say.mm(mm)}`,
    setSpot(can.id, { forwardMm: spot.forwardMm, leftMm: spot.leftMm, upMm: spot.upMm + mm }),
  )
}

/** What a measured return does in every state, told of the worst. */
export function drainFinding(c: Case, can: PartOf<'can'>, { line, profile, states }: BayDrain): Finding | undefined {
  const low = worst(states, (s) => -s.headM)
  if (!low) return undefined
  const at = { station: 'bay', part: can.id, line: line.id, state: low.id } as const
  const drains = states.filter((s) => s.headM > 0)
  const { length } = c.say
  if (low.headM <= 0) {
    const never = drains.length === 0
    const held = states.filter((s) => s.headM <= 0)
    const list = (of: readonly DrainState[]) => of.map((s) => atState(s.id)).join(', ')
    const when = held.length < drains.length ? `does not drain ${list(held)}` : `drains only ${list(drains)}`
    return {
      subject: `${can.id}-held`,
      severity: never ? 'stop' : 'fix',
      amount: -low.headM,
      at,
      title: never ? `${can.name} never drains` : `${can.name} ${when}`,
      why: `Suction holds ${length(Math.max(0, low.columnM))} of oil up ${atState(low.id)}, and its floor stands ${length(Math.max(0, profile.fallM))} above the return. ${never ? 'It fills and passes everything on.' : 'Meanwhile it fills.'}`,
      fix: raise(c, can, -low.headM),
    }
  }
  if (profile.traps > 0)
    return {
      subject: `${can.id}-sags`,
      severity: 'watch',
      amount: profile.trappedM3,
      at,
      title: `The ${lower(line)} sags: ${c.say.volume(profile.trappedM3)} of oil stay in it`,
      why: 'It climbs somewhere on its way, and a low stretch never empties. It still drains past it; in the cold that oil stands stiff.',
    }
  return {
    subject: `${can.id}-drains`,
    severity: 'ok',
    at,
    title: `${can.name} drains in every state`,
    why: `Its least head is ${length(low.headM)}, ${atState(low.id)}.`,
  }
}

export const bayDrain = (c: Case, can: PartOf<'can'>): Finding | undefined => {
  const drain = drainInBay(c.build, c.variant, c.analysis.states, can.id)
  return drain && drainFinding(c, can, drain)
}

export const clearance: Rule = {
  id: 'clearance',
  judge: (c) =>
    tightGaps(c.build, c.variant)
      .slice(0, 6)
      .map((g): Finding => ({
        subject: `${g.of} ${g.to}`,
        severity: g.gapM <= 0 ? 'fix' : 'watch',
        amount: g.askedM - g.gapM,
        at: { station: 'bay', [g.kind]: g.of },
        title: g.gapM <= 0 ? `${g.name} meets ${g.to}` : `${g.name} passes ${c.say.length(g.gapM)} from ${g.to}`,
        why: `It asks for ${c.say.length(g.askedM)}. Move it, lead it by another way, or sleeve it where it is heat.`,
      })),
}
