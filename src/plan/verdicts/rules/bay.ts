/** The bay: what comes too near to what, hoses that cannot be laid, and whether a can hangs, opens and is reached where it is. */
import { setPointing, setSpot } from '../../bay/bay-builders'
import { bayObjects, tightGaps, type Gap } from '../../bay/clearance'
import { supportedKg, BRACKET_REACH, mountsWithin, supportFor } from '../../bay/hanging'
import { placeFaults, placeGround, pullColumn, sitsOnEngine, spannerFaults, type PlaceFault } from '../../bay/place'
import { layOf, LEAST_BENT, wayOf } from '../../bay/lay'
import { canBody, pointOf, spotIn } from '../../catalogue/bay-geometry'
import type { PartOf } from '../../document/schema'
import { joinWords, lowered, loweredName } from '../../document/words'
import { formatNumber } from '@/core/units/format'
import { distanceOfWay, heightAt } from '@/core/route/distance'
import { pathTo } from '../plan-queries'
import type { Case, Finding, Fix, Rule } from '../verdict'
import { raise, RAISE_SPARE } from './bay-drains'

/** A hose whose way asks for a bend that it cannot make, or that is too short for its two bent ends. */
export const hoseLay: Rule = {
  id: 'hose-lay',
  judge: (c) =>
    c.variant.lines.flatMap((line): Finding[] => {
      if (line.kind === 'direct' || !wayOf(c.build.bay, c.variant, line)) return []
      const lay = layOf(c.build.bay, c.variant, line)
      if (lay.ok) {
        const { lengthM, endsDeg } = lay.value
        if (lengthM >= LEAST_BENT || endsDeg.some((deg) => deg === 0)) return []
        return [
          {
            subject: line.id,
            severity: 'fix',
            at: { station: 'bay', line: line.id },
            title: `The ${loweredName(line)} is ${c.say.length(lengthM)} between two bent ends`,
            why: `Under ${c.say.length(LEAST_BENT)} no hose is left between the sockets that could be clocked, or take up how the engine rocks. Turn the lid, move the can, or take one straight end.`,
          },
        ]
      }
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
            `Move the ${loweredName(p)} up by ${c.say.mm(Math.ceil((under + RAISE_SPARE) * 1000))}`,
            setSpot(p.id, { ...spotOf(at), upMm: at.upMm + Math.ceil((under + RAISE_SPARE) * 1000) }),
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
    const pulled = (bay?.keepOuts ?? []).flatMap((k) => {
      const column = pullColumn(k)
      return column ? [{ k, column, pullMm: k.pullMm! }] : []
    })
    if (pulled.length === 0) return []
    const bonnet = (bay?.bonnet ?? []).map(pointOf)
    const things = bayObjects(c.build, c.variant)
    return pulled.flatMap(({ k, column, pullMm }): Finding[] => {
      const top = column.middle[2] - column.half[2]
      const inWay = things.find(
        ({ points, radiusM, kind, of }) =>
          !(kind === 'part' && sitsOnEngine(c.variant, of)) && distanceOfWay(points, column).least < radiusM,
      )
      const lid = heightAt(bonnet, column.middle[0], column.middle[1])
      const short = lid === undefined ? 0 : top + pullMm / 1000 - (lid + BONNET_RISES)
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
            ? `It is drawn up by ${c.say.mm(pullMm)} and meets it on the way: oil could not be checked.`
            : `It is drawn up by ${c.say.mm(pullMm)}; the bonnet lies ${c.say.length(lid! - top)} above it and opens by some ${c.say.length(BONNET_RISES)} there (estimate).`,
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
    const faults = [...placeFaults(ground, body.floor), ...spannerFaults(c.build.bay, c.variant, p)]
    return [{ can: p, ground, body, faults }]
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
      const borne = supportedKg(on)
      const names = joinWords(on.map(({ m }) => `the ${lowered(m.name)}`))
      const shakes = supportFor(c.build.engine, on, { massKg: ground.massKg })
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

/** What service asks of a can's place, in words. */
const ASKS: Partial<
  Readonly<
    Record<
      PlaceFault['what'],
      { readonly title: (can: string) => string; readonly why: (can: PartOf<'can'>) => string }
    >
  >
> = {
  hand: {
    title: (can) => `No hand gets under the ${can}`,
    why: (can) => `, for ${can.drain ? 'a tap' : 'its bowl'} and a hand: it could not be emptied in its place.`,
  },
  lid: {
    title: (can) => `The lid of the ${can} does not come off`,
    why: () => ' above it: it could not be looked into in its place.',
  },
  spanner: {
    title: (can) => `No spanner gets at the ports of the ${can}`,
    why: () => ' round the middle of a fitting: turn the lid, or put it elsewhere.',
  },
}

/** What the place of a can asks in service: a hand under it, its lid lifted, and nothing below that a drip harms. */
export const canReach: Rule = {
  id: 'can-reach',
  judge: (c) =>
    placed(c).flatMap((p): Finding[] => {
      const { can } = p
      const worst = p.faults.find((f) => f.what === 'over' || f.what in ASKS)
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
          title: `${ASKS[worst.what]!.title(loweredName(can))}: ${has} to ${to}`,
          why: `It asks for ${c.say.length(worst.asked)}${ASKS[worst.what]!.why(can)}`,
          fix: worst.what === 'hand' ? raisedTo(c, p, worst.asked - worst.has) : undefined,
        },
      ]
    }),
}

/** A can higher by what is missing, where that is free. */
function raisedTo(c: Case, { can, ground, body }: Placed, missing: number): Fix | undefined {
  const [x, y, z] = body.floor
  return placeFaults(ground, [x, y, z + missing + RAISE_SPARE]).next().done ? raise(c, can, missing) : undefined
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
