/** What a can asks of its owner: looking in time, and before the frost. */
import { quantityText } from '@/core/units/format'
import { fromSi } from '@/core/units/units'
import { say, type Finding } from './tell'
import type { Rule } from './verdict'

const fill: Rule = {
  id: 'fill',
  judge: (c) =>
    c.analysis.cans.flatMap((f): Finding[] => {
      if (!f.known) return []
      const at = { station: 'log', part: f.part } as const
      const t = say(c)
      const found: Finding[] = []
      const left = f.checkBy - f.odometerNow
      if (f.emptyAt !== undefined && left <= 0)
        found.push({
          subject: `${f.part}-due`,
          severity: f.now.mid >= f.bowlM3 ? 'stop' : 'fix',
          at,
          title: `${f.name} is due: look now`,
          why: `It likely holds ${t.volume(f.now.low)} to ${t.volume(Math.min(f.now.high, 1.5 * f.bowlM3))} of ${t.volume(f.bowlM3)}. A full can passes everything on.`,
        })
      const every = c.build.duty.checkEveryKm * 1000
      if (f.distance.low < every) {
        const rounded = roundKm(fromSi('distance', f.distance.low, 'km'))
        found.push({
          subject: `${f.part}-interval`,
          severity: f.distance.mid < every ? 'fix' : 'watch',
          at,
          title: `${f.name} may be full after ${t.distance(f.distance.low)}`,
          why: `You plan to look every ${t.distance(every)}; the likely distance to full is ${t.distance(f.distance.mid)}, and one car in ten gets there by ${t.distance(f.distance.low)}.`,
          fix:
            rounded >= 20
              ? {
                  label: `Look every ${t.distance(rounded * 1000)}`,
                  edits: [{ op: 'set', path: ['duty', 'checkEveryKm'], value: rounded }],
                }
              : undefined,
        })
      }
      if (f.rising)
        found.push({
          subject: `${f.part}-rising`,
          severity: 'fix',
          at,
          title: `${f.name} catches more than it used to`,
          why: 'The last three emptyings all lie above what the earlier ones led to expect. Rings, PCV valve or oil level: check in the reverse order.',
        })
      if (found.length === 0 && f.distance.mid < Infinity)
        found.push({
          subject: `${f.part}-good`,
          severity: 'ok',
          at,
          title: `${f.name} has room until the next look`,
          why: `Even a heavy case fills it no sooner than ${t.distance(f.distance.low)}; you look every ${t.distance(every)}.`,
        })
      return found
    }),
}
const roundKm = (km: number) => {
  const step = km >= 2000 ? 250 : km >= 400 ? 50 : 10
  return Math.floor(km / step) * step
}

const freezing: Rule = {
  id: 'freezing',
  judge: (c) => {
    if (c.build.site.ambientC >= 0) return []
    return c.analysis.cans.flatMap((f): Finding[] => {
      if (!f.known || f.perMetre.water <= 0) return []
      const per = f.perMetre.water * 1e6
      return [
        {
          subject: f.part,
          severity: 'watch',
          at: { station: 'circuit', part: f.part },
          title: `Water in the ${f.name.toLowerCase()} can freeze`,
          why: `At ${quantityText(c.analysis.engine.amb.temperatureK, 'temperature', c.build.units, 2)} it gathers ${say(c).volume(per)} of water per ${say(c).distance(1e6)}. Ice shuts the can or the next restrictor and the crankcase has no way out. Empty it before a night of frost; keep lines short and warm.`,
        },
      ]
    })
  },
}

export const SERVICE_RULES: readonly Rule[] = [fill, freezing]
