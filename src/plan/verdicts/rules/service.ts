/** What a can asks of its owner: looking in time, and before the frost. */
import { fromSi } from '@/core/units/units'
import { setField } from '../../edit/edit-builders'
import { atState, dayText, loweredName } from '../../document/words'
import { BLOW_BY, TRACE } from '../../model/paths'
import type { CanForecast, LookReason } from '../../model/results'
import { maxBy } from '../plan-queries'
import { canRates } from '../../service/can-rates'
import { OIL_DRIES_K, returnedBy, waterIntoOil } from '../../service/oil-water'
import type { Case, Finding, Rule } from '../verdict'

/** Down to a distance that one remembers. */
const roundKm = (km: number) => {
  const step = km >= 2000 ? 250 : km >= 400 ? 50 : 10
  return Math.floor(km / step) * step
}

const DUE: Readonly<Record<LookReason, string>> = {
  'first look': 'New as it is, it has not been looked into yet.',
  'own interval': 'Your own interval is up.',
  forecast: 'One car in ten is full by now.',
  'ran over': 'As much had gathered by the model when it last ran over.',
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
      why: `${DUE[f.checkReason]} It likely holds ${volume(f.now.low)} to ${volume(Math.min(f.now.high, 1.5 * f.bowlM3))} of ${volume(f.bowlM3)}. A full can passes everything on.`,
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

/** Odds as they are shown: never surer than 99 to 1. */
const oddsText = (odds: number): string => `${Math.min(99, Math.round(odds * 10) / 10)} to 1`

function changed(f: CanForecast): Finding[] {
  if (!f.changed) return []
  const { odds, since, rise } = f.changed
  return [
    {
      subject: `${f.part}-${rise ? 'rising' : 'falling'}`,
      severity: rise ? 'fix' : 'watch',
      at: { station: 'log', part: f.part },
      title: `${f.name} catches ${rise ? 'more' : 'less'} than it used to`,
      why: `From ${dayText(since)} on it ${rise ? 'made more' : 'made less'} than before, by odds of ${oddsText(odds)}. ${rise ? 'Oil level, PCV valve or rings: check in this order.' : 'A hose off, a valve that sticks, or the gas has found another way; after work on the engine log the can as fitted.'}`,
    },
  ]
}

export const fill: Rule = {
  id: 'fill',
  judge: (c) =>
    c.analysis.cans.flatMap((f): Finding[] => {
      if (!f.known) return []
      const every = c.build.duty.checkEveryKm * 1000
      const found = [...due(c, f), ...interval(c, f, every), ...changed(f)]
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

/** Less than this in a thousand km is not worth a word, m3 per metre. */
const WATER_TRACE = 1e-12
/** Water that a drain may take to the sump without a word, m3 per metre: 20 ml in 1 000 km (estimate). */
const RETURNED = 2e-11

export const freezing: Rule = {
  id: 'freezing',
  judge: (c) => {
    if (c.build.site.ambientC >= 0) return []
    const outside = c.say.temperature(c.analysis.engine.amb.temperatureK)
    return c.variant.parts.flatMap((p): Finding[] => {
      const at = { station: 'circuit', part: p.id } as const
      if (p.kind === 'can') {
        // the water of the forecast, in this cold
        const made = canRates(c.build, c.analysis, p.id).at(c.build.site.ambientC).all.water
        if (made < WATER_TRACE) return []
        return [
          {
            subject: p.id,
            severity: 'watch',
            at,
            title: `Water in the ${loweredName(p)} can freeze`,
            why: `At ${outside} it gathers ${c.say.perDistance(made)} of water${p.drain ? ', which its drain takes along' : ''}. Ice shuts the can or the next restrictor and the crankcase has no way out. ${p.drain ? 'Keep' : 'Empty it before a night of frost; keep'} lines short and warm.`,
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

export const oilWater: Rule = {
  id: 'oil-water',
  judge: (c) => [...keepsWater(c), ...returnsWater(c)],
}

function keepsWater(c: Case): Finding[] {
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
}

/** A drain lets all down that its separator keeps: in the cold, more water than oil. */
const returnsWater = (c: Case): Finding[] =>
  c.variant.parts.flatMap((p): Finding[] => {
    const returned = p.kind === 'can' ? returnedBy(c.build, c.analysis, p) : undefined
    if (!returned || returned.water < RETURNED || returned.water < returned.oil) return []
    return [
      {
        subject: `${p.id}-returns`,
        severity: 'watch',
        at: { station: 'circuit', part: p.id },
        title: `The drain of the ${loweredName(p)} takes water to the sump`,
        why: `At ${c.say.temperature(returned.airK)} outside it returns ${c.say.perDistance(returned.water)} of water with ${c.say.perDistance(returned.oil)} of oil. Only a long drive with hot oil gets rid of it: on short trips a tap in the drain, shut and emptied by hand in winter, keeps it out.`,
      },
    ]
  })
