/** Whether a separator's return drains where it runs in the measured bay. */
import { setSpot } from '../../bay/bay-builders'
import { drainInBay, type BayDrain, type DrainState } from '../../bay/drains'
import { spotIn } from '../../catalogue/bay-geometry'
import type { Line, PartOf } from '../../document/schema'
import { tilts } from '../../bay/tilt'
import { atState, loweredName } from '../../document/words'
import { oilSum, type SolvedState } from '../../model/results'
import { leastBore } from '../../model/resolve'
import { airDensity } from '@/core/gas/air'
import { oilDensity, OIL_POURED } from '@/core/gas/oil'
import { FLOODING, wallis } from '@/core/drain/drain'
import { setLine } from '../../edit/edit-builders'
import { TURBO_DRAIN } from '../../edit/ports'
import { maxBy, nextBores } from '../plan-queries'
import type { Case, Finding, Fix } from '../verdict'

/** Nobody stays in one state for longer, hours. */
const LONG_HOURS = 5
/** Neck of a filler cap that a separator sits on, mm (estimate). */
const NECK_MM = 32
/** Head to spare when a separator is raised until it drains, m. */
export const RAISE_SPARE = 0.02

/** The separator higher by what is missing. */
export function raise(c: Case, can: PartOf<'can'>, missing: number): Fix | undefined {
  const spot = spotIn(c.build.bay, can.id)
  if (!spot) return undefined
  const mm = Math.ceil((missing + RAISE_SPARE) * 1000)
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

/** What a measured return does in every state; the worst is reported. */
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
    states.filter((s) => s.caught > Math.min(s.capacity, s.coldCapacity)),
    (s) => s.caught / s.capacity,
  )
  if (slow) {
    const hot = slow.caught > slow.capacity
    const wider = nextBores(line.boreMm)[0]
    const ml = (m3s: number) => c.say.volume(m3s * 3600)
    return {
      subject: `${can.id}-slow`,
      severity: hot ? 'fix' : 'watch',
      amount: slow.caught / (hot ? slow.capacity : slow.coldCapacity),
      at: { ...at, state: slow.id },
      title: `The ${loweredName(line)} lets down less than is gathered ${atState(slow.id)}${hot ? '' : ' while oil is cold'}`,
      why: `${ml(slow.caught)} an hour come, ${ml(hot ? slow.capacity : slow.coldCapacity)} of ${hot ? 'hot oil' : 'oil at freezing point'} go down the ${c.say.mm(line.boreMm)} hose. ${hot ? 'It fills from then on.' : 'It catches up once warm.'}`,
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
