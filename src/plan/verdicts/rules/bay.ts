/** The bay: whether returns drain where they run, and what comes too near to what. */
import { setPointing, setSpot } from '../../bay/bay-builders'
import { drainInBay, type BayDrain, type DrainState } from '../../bay/drains'
import { thingsIn, tightGaps, type Gap } from '../../bay/clearance'
import { borneKg, BRACKET_REACH, mountsWithin, supportFor } from '../../bay/hanging'
import { placeFaults, placeGround, pullColumn, sitsOnEngine } from '../../bay/place'
import { layOf, wayOf } from '../../bay/lay'
import { canBody, pointOf, spotIn } from '../../catalogue/bay-geometry'
import type { Line, PartOf } from '../../document/schema'
import { tilts } from '../../bay/tilt'
import { atState, lowered, loweredName } from '../../document/words'
import { oilSum, type SolvedState } from '../../model/results'
import { leastBore } from '../../model/resolve'
import { airDensity } from '@/core/gas/air'
import { formatNumber } from '@/core/units/format'
import { distanceOfWay, heightAt } from '@/core/route/distance'
import { oilDensity, OIL_POURED } from '@/core/gas/oil'
import { FLOODING, wallis } from '@/core/drain/drain'
import { setLine } from '../../edit/edit-builders'
import { TURBO_DRAIN } from '../../edit/ports'
import { maxBy, nextBores, pathTo } from '../plan-queries'
import type { Case, Finding, Fix, Rule } from '../verdict'

/** Nobody stays in one state for longer, hours. */
const LONG_HOURS = 5
/** Neck of a filler cap that a separator sits on, mm (estimate). */
const NECK_MM = 32
/** Head to spare when a separator is raised until it drains, m. */
const SPARE = 0.02

/** The separator higher by what is missing. */
function raise(c: Case, can: PartOf<'can'>, missing: number): Fix | undefined {
  const spot = spotIn(c.build.bay, can.id)
  if (!spot) return undefined
  const mm = Math.ceil((missing + SPARE) * 1000)
  return c.fix(
    `Raise the ${loweredName(can)} by ${c.say.mm(mm)}`,
    setSpot(can.id, { forwardMm: spot.forwardMm, leftMm: spot.leftMm, upMm: spot.upMm + mm }),
  )
}

/** How soon a separator is full while the states go on in which its oil stays up. */
function fillsMeanwhile(c: Case, can: PartOf<'can'>, held: readonly DrainState[]): { says: string; soon: boolean } {
  const fastest = maxBy(
    held.map((h) => ({ id: h.id, rate: oilSum(c.state(h.id)?.cans[can.id]?.caught) / OIL_POURED })),
    (h) => h.rate,
  )
  if (!fastest || !(fastest.rate > 0)) return { says: 'Meanwhile it fills.', soon: true }
  const hours = (can.bowlMl * 1e-6) / fastest.rate / 3600
  if (hours > LONG_HOURS)
    return { says: 'What it gathers meanwhile is little; it runs back when that ends.', soon: false }
  return {
    says: `Its bowl is full after ${hours < 1 ? `${Math.max(1, Math.round(hours * 60))} min` : `${hours.toPrecision(2)} h`} ${atState(fastest.id)} without a break.`,
    soon: true,
  }
}

/** What a measured return does in every state, told of the worst. */
export function drainFinding(c: Case, can: PartOf<'can'>, drain: BayDrain): Finding | undefined {
  const { line, profile, states } = drain
  const low = maxBy(states, (s) => -s.headM)
  if (!low) return undefined
  const at = { station: 'bay', part: can.id, line: line.id, state: low.id } as const
  const drains = states.filter((s) => s.headM > 0)
  const { length } = c.say
  if (low.headM <= 0) {
    const never = drains.length === 0
    const held = states.filter((s) => s.headM <= 0)
    const meanwhile = fillsMeanwhile(c, can, held)
    const list = (of: readonly DrainState[]) => of.map((s) => atState(s.id)).join(', ')
    const when = held.length < drains.length ? `does not drain ${list(held)}` : `drains only ${list(drains)}`
    return {
      subject: `${can.id}-held`,
      severity: never ? 'stop' : meanwhile.soon ? 'fix' : 'watch',
      amount: -low.headM,
      at,
      title: never ? `${can.name} never drains` : `${can.name} ${when}`,
      why: `Suction holds ${length(Math.max(0, low.columnM))} of oil up ${atState(low.id)}, and its floor stands ${length(Math.abs(profile.fallM))} ${profile.fallM < 0 ? 'below' : 'above'} the return. ${never ? 'It fills and passes everything on.' : meanwhile.says}`,
      fix: raise(c, can, -low.headM),
    }
  }
  if (profile.traps > 0)
    return {
      subject: `${can.id}-sags`,
      severity: 'watch',
      amount: profile.trappedM3,
      at,
      title: `The ${loweredName(line)} sags: ${c.say.volume(profile.trappedM3)} of oil stay in it`,
      why: 'It climbs somewhere on its way, and a low stretch never empties. It still drains past it; in the cold that oil stands stiff.',
    }
  const slow = maxBy(
    states.filter((s) => s.gathered > Math.min(s.capacity, s.coldCapacity)),
    (s) => s.gathered / s.capacity,
  )
  if (slow) {
    const hot = slow.gathered > slow.capacity
    const wider = nextBores(line.boreMm)[0]
    const ml = (m3s: number) => c.say.volume(m3s * 3600)
    return {
      subject: `${can.id}-slow`,
      severity: hot ? 'fix' : 'watch',
      amount: slow.gathered / (hot ? slow.capacity : slow.coldCapacity),
      at: { ...at, state: slow.id },
      title: `The ${loweredName(line)} lets down less than is gathered ${atState(slow.id)}${hot ? '' : ' while oil is cold'}`,
      why: `${ml(slow.gathered)} an hour come, ${ml(hot ? slow.capacity : slow.coldCapacity)} of ${hot ? 'hot oil' : 'oil at freezing point'} go down the ${c.say.mm(line.boreMm)} hose. ${hot ? 'It fills from then on.' : 'It catches up once warm.'}`,
      fix:
        wider && c.fix(`Lay the ${loweredName(line)} in ${c.say.mm(wider.mm)}`, setLine(line.id, { boreMm: wider.mm })),
    }
  }
  const leaning = maxBy(
    tilts(c.build, drain).filter((t) => t.headM <= 0 && t.sustained),
    (t) => -t.headM,
  )
  if (leaning)
    return {
      subject: `${can.id}-tilts`,
      severity: 'watch',
      amount: -leaning.headM,
      at,
      title: `Oil leans off the return of the ${loweredName(can)} in ${leaning.name === 'launch' || leaning.name === 'braking' ? `hard ${leaning.name}` : leaning.name}`,
      why: `At ${leaning.g} g oil leans ${length(-leaning.headM)} past its return. It drains again when the car runs straight; its bowl has to hold what comes until then.`,
      fix: raise(c, can, -leaning.headM),
    }
  return {
    subject: `${can.id}-drains`,
    severity: 'ok',
    at,
    title: `${can.name} drains in every state`,
    why: `Its least head is ${length(low.headM)}, ${atState(low.id)}.${drain.standsM3 > 0 ? ` Its end lies under the pan's oil, so ${c.say.volume(drain.standsM3)} stand in the hose: that is as it should be, and it seals it.` : ''}`,
  }
}

/** Suction that draws gas up a return which nothing seals, Pa. */
const DRAWS_UP = 100

/** A return that hangs on the turbo's drain, above all oil: suction in the separator draws gas up it, against both. */
export function turboDrainFindings(c: Case, can: PartOf<'can'>, line: Line): Finding[] {
  const end = line.from.part === can.id ? line.to : line.from
  if (end.port !== TURBO_DRAIN) return []
  const suction = (s: SolvedState) => (s.gauge[end.part] ?? 0) - (s.gauge[`${can.id}.in`] ?? 0)
  const s = maxBy(c.solved, suction)
  if (!s || suction(s) <= DRAWS_UP) return []
  return [
    {
      subject: `${can.id}-turbo-drain`,
      severity: 'watch',
      amount: suction(s),
      at: { station: 'circuit', part: can.id, line: line.id, state: s.id },
      title: `The ${loweredName(can)} sucks at the turbo's drain ${atState(s.id)}`,
      why: `It stands ${c.say.pressure(suction(s))} below the crankcase, and above the pan's oil nothing seals the end of its return: gas runs up it, past the turbo's oil that is to fall by its weight alone. A one-way valve at the tee, or a return below the oil level, keeps them apart.`,
    },
  ]
}

/** Whether a measured drain lets the oil of its can down, in every state and tilt (methods 8). */
export const bayDrain = (c: Case, can: PartOf<'can'>): Finding | undefined => {
  const drain = drainInBay(c.build, c.variant, c.analysis.states, can.id)
  return drain && drainFinding(c, can, drain)
}

/** A separator whose oil runs back against the gas: whether what comes up lets it down. */
export function floodFinding(c: Case, can: PartOf<'can'>): Finding | undefined {
  const line = c.variant.lines.find(
    (l) => l.kind !== 'drain' && [l.from, l.to].some((e) => e.part === can.id && e.port === 'in'),
  )
  if (!line) return undefined
  const end = line.from.part === can.id ? line.from : line.to
  const bores = can.ports.flatMap((p) => (p.id === 'in' && p.boreMm !== undefined ? [p.boreMm] : []))
  // joined without a hose, the neck of the cap itself lets both through
  const boreMm = line.kind === 'direct' ? (bores[0] ?? NECK_MM) : leastBore(end, line.boreMm, bores[0])
  const near = (s: SolvedState, mm: number) => {
    const density = airDensity(c.analysis.engine.amb.pressurePa, s.operating.gasK)
    const gas = Math.abs(s.passages[can.id]?.flow ?? 0) / density
    const oil = oilSum(s.cans[can.id]?.caught) / OIL_POURED
    return wallis({ flow: gas, density: density }, { flow: oil, density: oilDensity(s.operating.oilK) }, mm / 1000)
  }
  const s = maxBy(c.solved, (x) => near(x, boreMm))
  const level = s ? near(s, boreMm) : 0
  if (!s || level <= FLOODING) return undefined
  const wider = nextBores(boreMm).find((b) => c.solved.every((x) => near(x, b.mm) < FLOODING))
  return {
    subject: `${can.id}-floods`,
    severity: 'watch',
    amount: level,
    at: { station: 'circuit', part: can.id, line: line.id, state: s.id },
    title: `Gas holds oil up in the ${loweredName(can)} ${atState(s.id)}`,
    why: `Oil is to run down ${c.say.mm(boreMm)} through which gas comes up: by Wallis’ measure it floods at ${FLOODING} (0.7 to 1), and this is ${level.toPrecision(2)}. What it has caught stays in it and is carried on.`,
    fix:
      wider && line.kind === 'hose'
        ? c.fix(
            `Lay the ${loweredName(line)} in ${c.say.mm(wider.mm)}`,
            setLine(line.id, {
              boreMm: wider.mm,
              from: { ...line.from, barbMm: undefined },
              to: { ...line.to, barbMm: undefined },
            }),
          )
        : undefined,
  }
}

/** A hose whose way asks for a bend that it cannot make. */
export const hoseLay: Rule = {
  id: 'hose-lay',
  judge: (c) =>
    c.variant.lines.flatMap((line): Finding[] => {
      if (line.kind === 'direct' || !wayOf(c.build.bay, c.variant, line)) return []
      const lay = layOf(c.build.bay, c.variant, line)
      if (lay.ok) return []
      return [
        {
          subject: line.id,
          severity: 'fix',
          at: { station: 'bay', line: line.id },
          title: `The ${loweredName(line)} cannot be laid so`,
          why: `${lay.reason} Give it a point more on its way, turn the lid, or take another end.`,
        },
      ]
    }),
}

/** A vent filter belongs highest: oil that comes to one below its can runs out of it. */
export const ventLow: Rule = {
  id: 'vent-low',
  judge: (c) =>
    c.variant.parts.flatMap((p): Finding[] => {
      const at = p.kind === 'filter' ? spotIn(c.build.bay, p.id) : undefined
      const way = at && pathTo(c, p.id, (id) => c.part(id)?.kind === 'can')
      const can = way && c.part(way.at(-1)!.part)
      const body = can?.kind === 'can' ? canBody(c.build.bay, can) : undefined
      if (!at || !body) return []
      const under = body.floor[2] + body.heightM - at.upMm / 1000
      if (under <= 0) return []
      return [
        {
          subject: p.id,
          severity: 'watch',
          amount: under,
          at: { station: 'bay', part: p.id },
          title: `${p.name} stands ${c.say.length(under)} below the lid of the ${loweredName(can)}`,
          why: 'The vent belongs at the highest point, so that oil has to climb to it: from here what the gas carries along runs out over the engine.',
          fix: c.fix(
            `Move the ${loweredName(p)} up by ${c.say.mm(Math.ceil((under + SPARE) * 1000))}`,
            setSpot(p.id, { ...spotOf(at), upMm: at.upMm + Math.ceil((under + SPARE) * 1000) }),
          ),
        },
      ]
    }),
}
const spotOf = ({ forwardMm, leftMm, upMm }: { forwardMm: number; leftMm: number; upMm: number }) => ({
  forwardMm,
  leftMm,
  upMm,
})

/** Least that an open bonnet rises over what it covers, m (estimate). */
const BONNET_RISES = 0.4

/** What is drawn upwards (a dipstick, a cap) needs its own length free above it. */
export const pulledOut: Rule = {
  id: 'pulled-out',
  judge: (c) => {
    const { bay } = c.build
    const bonnet = (bay?.bonnet ?? []).map(pointOf)
    return (bay?.keepOuts ?? []).flatMap((k): Finding[] => {
      const column = pullColumn(k)
      if (!column || !k.pullMm) return []
      const top = column.middle[2] - column.half[2]
      const inWay = thingsIn(c.build, c.variant).find(
        ({ points, radiusM, kind, of }) =>
          !(kind === 'part' && sitsOnEngine(c.variant, of)) && distanceOfWay(points, column).least < radiusM,
      )
      const lid = heightAt(bonnet, column.middle[0], column.middle[1])
      const short = lid === undefined ? 0 : top + k.pullMm / 1000 - (lid + BONNET_RISES)
      if (!inWay && short <= 0) return []
      return [
        {
          subject: k.id,
          severity: inWay ? 'fix' : 'watch',
          ...(inWay ? {} : { amount: short }),
          at: { station: 'bay', ...(inWay ? { [inWay.kind]: inWay.of } : {}) },
          title: inWay
            ? `${inWay.name} stands over the ${lowered(k.name)}`
            : `The bonnet leaves the ${lowered(k.name)} ${c.say.length(short)} too little`,
          why: inWay
            ? `It is drawn up by ${c.say.mm(k.pullMm)} and meets it on the way: oil could not be checked.`
            : `It is drawn up by ${c.say.mm(k.pullMm)}; the bonnet lies ${c.say.length(lid! - top)} above it and opens by some ${c.say.length(BONNET_RISES)} there (estimate).`,
        },
      ]
    })
  },
}

/** A measured can with what is wrong with its place. */
const placed = (c: Case) =>
  c.variant.parts.flatMap((p) => {
    const body = p.kind === 'can' ? canBody(c.build.bay, p) : undefined
    if (p.kind !== 'can' || !body || !c.build.bay) return []
    const ground = placeGround(c.build.bay, c.variant, p)
    return [{ can: p, ground, body, faults: [...placeFaults(ground, body.floor)] }]
  })
type Placed = ReturnType<typeof placed>[number]

/** A can that hangs on nothing, or on mounts that do not carry it full. */
export const weakMount: Rule = {
  id: 'weak-mount',
  judge: (c) =>
    placed(c).flatMap(({ can, ground, body, faults }): Finding[] => {
      const at = { station: 'bay', part: can.id } as const
      if (faults.some((f) => f.what === 'mount') && (c.build.bay?.mounts ?? []).length > 0)
        return [
          {
            subject: can.id,
            severity: 'watch',
            at,
            title: `Nothing is within a bracket's reach of the ${loweredName(can)}`,
            why: `A strip of sheet carries over ${c.say.length(BRACKET_REACH)} at most. Enter what it hangs on, or put it where something is.`,
          },
        ]
      if (!faults.some((f) => f.what === 'weight')) return []
      const on = mountsWithin(c.build.bay, body)
      const borne = borneKg(on)
      const names = on.map(({ m }) => `the ${lowered(m.name)}`).join(' and ')
      const shakes = supportFor(c.build.engine, on, ground.massKg)
      const hz = (v: number) => formatNumber(v, 2)
      const range = shakes && `${hz(shakes.engineHz[0])} to ${hz(shakes.engineHz[1])} Hz`
      return [
        {
          subject: can.id,
          severity: 'fix',
          amount: ground.massKg / borne,
          at,
          title: `${can.name} weighs ${c.say.mass(ground.massKg)} full, ${names} carr${on.length === 1 ? 'ies' : 'y'} ${c.say.mass(borne)}`,
          why: `${shakes ? `On a strip of ${c.say.mm(shakes.thicknessM * 1000)} it shakes at ${hz(shakes.ringsHz)} Hz${shakes.rings === 'within' ? `, amid the engine's ${range}` : ''}: it` : 'It'} works loose or tears off with its oil in it. Hang it on a bolt or stud, or by a second support.`,
        },
      ]
    }),
}

/** What the place of a can asks in service: a hand under it, its lid lifted, and nothing below that a drip harms. */
export const canReach: Rule = {
  id: 'can-reach',
  judge: (c) =>
    placed(c).flatMap((p): Finding[] => {
      const { can } = p
      const worst = p.faults.find((f) => f.what === 'hand' || f.what === 'lid' || f.what === 'over')
      if (!worst) return []
      const at = { station: 'bay', part: can.id } as const
      const to = `the ${lowered(worst.to)}`
      if (worst.what === 'over')
        return [
          {
            subject: can.id,
            severity: 'watch',
            at,
            title: `${can.name} hangs over ${to}`,
            why: 'What drips when it is emptied runs onto it. Beside it is better.',
          },
        ]
      const has = c.say.length(Math.max(0, worst.has))
      return [
        {
          subject: can.id,
          severity: 'watch',
          amount: worst.asked - worst.has,
          at,
          title:
            worst.what === 'hand'
              ? `No hand gets under the ${loweredName(can)}: ${has} to ${to}`
              : `The lid of the ${loweredName(can)} does not come off: ${has} to ${to}`,
          why: `It asks for ${c.say.length(worst.asked)}${worst.what === 'hand' ? (can.drain ? ', for a tap and a hand' : ', for its bowl and a hand') : ' above it'}: it could not be emptied in its place.`,
          fix: worst.what === 'hand' ? raisedTo(c, p, worst.asked - worst.has) : undefined,
        },
      ]
    }),
}

/** A can higher by what is missing, where that is free. */
function raisedTo(c: Case, { can, ground, body }: Placed, missing: number): Fix | undefined {
  const [x, y, z] = body.floor
  return placeFaults(ground, [x, y, z + missing + SPARE]).next().done ? raise(c, can, missing) : undefined
}

/** A hose that comes too near to something, or to something that it meets. */
const tooNear = (c: Case, g: Gap): Pick<Finding, 'severity' | 'title' | 'why'> => ({
  severity: g.gapM <= 0 ? 'fix' : 'watch',
  title: g.gapM <= 0 ? `${g.name} meets ${g.to}` : `${g.name} passes ${c.say.length(g.gapM)} from ${g.to}`,
  why: `It asks for ${c.say.length(g.askedM)}. Move it, lead it by another way, or sleeve it where it is heat.`,
})
/** A hose that leads through the can that it joins: a lid that somebody has turned is set to suit again. */
const throughOwn = (c: Case, g: Gap, can: string): Pick<Finding, 'severity' | 'title' | 'why' | 'fix'> => ({
  severity: 'fix',
  title: `${g.name} leads through ${g.to}`,
  why: 'Cut to this length it would not go round. Turn the lid, or give the hose a point on its way.',
  fix:
    spotIn(c.build.bay, can)?.turnDeg === undefined
      ? undefined
      : c.fix('Turn the lid to where its hoses go', setPointing(can, { turnDeg: undefined })),
})

export const clearance: Rule = {
  id: 'clearance',
  judge: (c) =>
    tightGaps(c.build, c.variant)
      .slice(0, 6)
      .map((g): Finding => ({
        subject: `${g.of} ${g.to}`,
        amount: g.askedM - g.gapM,
        at: { station: 'bay', [g.kind]: g.of },
        ...(g.own === undefined ? tooNear(c, g) : throughOwn(c, g, g.own)),
      })),
}
