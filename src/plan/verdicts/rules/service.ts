/** What a can asks of its owner: looking in time, and before the frost. */
import { fromSi } from '@/core/units/units'
import { setField } from '../../edit/edit-builders'
import { atState, dayText, loweredName } from '../../document/words'
import { BLOW_BY, TRACE } from '../../model/paths'
import type { CanForecast } from '../../model/results'
import { maxBy } from '../plan-queries'
import { OIL_DRIES_K, waterIntoOil } from '../../service/oil-water'
import type { Case, Finding, Rule } from '../verdict'

/** Down to a distance that one remembers. */
const roundKm = (km: number) => {
  const step = km >= 2000 ? 250 : km >= 400 ? 50 : 10
  return Math.floor(km / step) * step
}

function due(c: Case, f: CanForecast): Finding[] {
  if (f.emptyAt === undefined || f.checkBy > f.odometerNow) return []
  const { volume } = c.say
  return [
    {
      subject: `${f.part}-due`,
      severity: f.now.mid >= f.bowlM3 ? 'stop' : 'fix',
      at: { station: 'log', part: f.part },
      title: `${f.name} is due: look now`,
      why: `It likely holds ${volume(f.now.low)} to ${volume(Math.min(f.now.high, 1.5 * f.bowlM3))} of ${volume(f.bowlM3)}. A full can passes everything on.`,
    },
  ]
}

function interval(c: Case, f: CanForecast, every: number): Finding[] {
  if (f.distance.low >= every) return []
  const { distance } = c.say
  const rounded = roundKm(fromSi('distance', f.distance.low, 'km'))
  return [
    {
      subject: `${f.part}-interval`,
      severity: f.distance.mid < every ? 'fix' : 'watch',
      at: { station: 'log', part: f.part },
      title: `${f.name} may be full after ${distance(f.distance.low)}`,
      why: `You plan to look every ${distance(every)}; the likely distance to full is ${distance(f.distance.mid)}, and one car in ten gets there by ${distance(f.distance.low)}.`,
      fix:
        rounded >= 20
          ? c.fix(`Look every ${distance(rounded * 1000)}`, setField(['duty', 'checkEveryKm'], rounded))
          : undefined,
    },
  ]
}

const rising = (f: CanForecast): Finding[] =>
  f.rising
    ? [
        {
          subject: `${f.part}-rising`,
          severity: 'fix',
          at: { station: 'log', part: f.part },
          title: `${f.name} catches more than it used to`,
          why: `From ${dayText(f.rising.since)} on it made more than before, by odds of ${Math.min(99, Math.round(f.rising.odds * 10) / 10)} to 1. Oil level, PCV valve or rings: check in this order.`,
        },
      ]
    : []

export const fill: Rule = {
  id: 'fill',
  judge: (c) =>
    c.analysis.cans.flatMap((f): Finding[] => {
      if (!f.known) return []
      const every = c.build.duty.checkEveryKm * 1000
      const found = [...due(c, f), ...interval(c, f, every), ...rising(f)]
      if (found.length > 0 || f.distance.mid === Infinity) return found
      return [
        {
          subject: `${f.part}-good`,
          severity: 'ok',
          at: { station: 'log', part: f.part },
          title: `${f.name} has room until the next look`,
          why: `Even a heavy case fills it no sooner than ${c.say.distance(f.distance.low)}; you look every ${c.say.distance(every)}.`,
        },
      ]
    }),
}

export const freezing: Rule = {
  id: 'freezing',
  judge: (c) => {
    if (c.build.site.ambientC >= 0) return []
    const outside = c.say.temperature(c.analysis.engine.amb.temperatureK)
    return c.variant.parts.flatMap((p): Finding[] => {
      const at = { station: 'circuit', part: p.id } as const
      if (p.kind === 'can') {
        const caught = maxBy(c.solved, (s) => s.cans[p.id]?.waterCaught ?? 0)
        if (!caught || (caught.cans[p.id]?.waterCaught ?? 0) <= 0) return []
        const made = c.analysis.cans.find((f) => f.part === p.id)?.perMetre.water
        return [
          {
            subject: p.id,
            severity: 'watch',
            at,
            title: `Water in the ${loweredName(p)} can freeze`,
            why: `At ${outside} ${made ? `it gathers ${c.say.perDistance(made)} of water` : 'water gathers in it, and in its drain'}. Ice shuts the can or the next restrictor and the crankcase has no way out. ${made ? 'Empty it before a night of frost; keep' : 'Keep'} lines short and warm.`,
          },
        ]
      }
      if (p.kind !== 'restrictor') return []
      const wet = maxBy(c.solved, (s) => (c.paths(s).through(p.id, BLOW_BY) > TRACE ? s.passages[p.id]!.water : 0))
      if (!wet || c.paths(wet).through(p.id, BLOW_BY) <= TRACE) return []
      return [
        {
          subject: p.id,
          severity: 'watch',
          at: { ...at, state: wet.id },
          title: `The ${loweredName(p)} can freeze shut`,
          why: `Wet gas passes its ${c.say.mm(p.boreMm)} bore ${atState(wet.id)}, and at ${outside} ice grows there first. Place it where the engine warms it, or fit a relief cap.`,
        },
      ]
    })
  },
}

/** Less than this in a thousand km is not worth a word, m3 per metre. */
const WATER_TRACE = 1e-12

export const oilWater: Rule = {
  id: 'oil-water',
  judge: (c) => {
    const { oilC } = c.build.engine
    const oilK = c.analysis.engine.facts.oilInUseK
    const water = waterIntoOil(c.build, c.analysis)
    if (oilC === undefined || oilK >= OIL_DRIES_K || water === undefined || water < WATER_TRACE) return []
    return [
      {
        subject: 'keeps',
        severity: 'watch',
        at: { station: 'engine' },
        title: `Oil at ${c.say.temperature(oilK)} keeps its water`,
        why: `On this use cold starts leave water in it, about ${c.say.perDistance(water)}, and only oil at ${c.say.temperature(OIL_DRIES_K)} or more drives it off. A thermostat for the oil cooler, or a cover over it in winter; until then change the oil sooner.`,
      },
    ]
  },
}
