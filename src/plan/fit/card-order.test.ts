/** The job card in the order of the work, by written rules (common practice, no source), over every school on every class. */
import { ENGINE_CLASSES, type EngineClass } from '../catalogue/engines'
import { placeGround } from '../bay/place'
import type { PartOf } from '../document/schema'
import { setPart } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { figuresOf } from '../model/figures'
import { SCHOOLS } from '../schools/schools'
import { after, inReadyBay, withoutRegulator } from '../testing'
import { bungsOf } from './bungs'
import { jobCard, type Card } from './card'
import { cardHours, hoursOfTicks } from './card-hours'
import { couplingsOf } from './couplings'
import { tickStep } from './fit-builders'
import { drillings, shoppingList } from './lists'
import { compareWithStock } from './stock'
import { madeOf, stripsOf } from './strips'
import { unitFormatter } from '../document/words'
import { instrumentFor } from './steps/prove'

const VERBS =
  /^(Let|Lay|Read|Blow|Take|Cut|Close|Hold|Make|Drill|Weld|Test|Screw|Push|Put|Look|Slide|Assemble|Hang|Join|Clamp|Lead|Tighten|Go) /

const planOf = (engineClass: EngineClass, school: string) => inReadyBay({ engineClass, use: 'street-track', school })

/** Pairs of steps that stand the wrong way round. */
function wrongWayRound(card: Card, first: (key: string) => boolean, then: (key: string) => boolean): string[] {
  const keys = card.steps.map((s) => s.key)
  const last = keys.findLastIndex(first)
  const begins = keys.findIndex(then)
  return last >= 0 && begins >= 0 && last > begins ? [`${keys[last]!} after ${keys[begins]!}`] : []
}

describe.each(ENGINE_CLASSES.map((c) => c.key))('%s', (engineClass) => {
  test('every school: no step out of order, each begins with a verb, every joint has its step and every piece its line', () => {
    const bad: string[] = []
    for (const s of SCHOOLS) {
      const b = planOf(engineClass, s.key)
      const v = activeVariant(b)
      const strips = stripsOf(b, v)
      const made = madeOf(strips)
      const card = jobCard(b, v)
      const say = (x: string) => bad.push(`${s.key}: ${x}`)
      const keys = card.steps.map((x) => x.key)
      for (const step of card.steps) if (!VERBS.test(step.says)) say(`no verb: ${step.says.slice(0, 40)}`)
      // a valve is blown through before anything of it is fitted; one that stays where it is, never
      const added = new Set(compareWithStock(b, v).added.map((p) => p.id))
      for (const key of keys.filter((k) => k.startsWith('blow-'))) {
        if (!added.has(key.slice(5))) say(`${key}: it stays`)
        const fits = card.steps.findIndex((x) => x.phase === 'Fit')
        if (fits >= 0 && keys.indexOf(key) > fits) say(`${key} after fitting`)
      }
      for (const p of v.parts)
        if ((p.kind === 'check' || p.kind === 'pcv') && added.has(p.id) && !keys.includes(`blow-${p.id}`))
          say(`${p.id} is not blown through`)
      for (const x of made) {
        const of = (what: string) => (k: string) => k === `${x.line.id}-${what}`
        const ends = (k: string) => new RegExp(`^${x.line.id}-(from|to)-(clamp|end|open)$`).test(k)
        bad.push(
          ...wrongWayRound(card, of('mock'), of('cut')),
          ...wrongWayRound(card, of('cut'), of('slide')),
          // clamps, sleeves and rings before the ends
          ...wrongWayRound(card, of('slide'), of('assemble')),
          ...wrongWayRound(card, of('slide'), ends),
          ...wrongWayRound(card, of('assemble'), ends),
          ...wrongWayRound(card, ends, of('clips')),
        )
        const clamped = x.ends.some((e) => e.chain.ok && e.chain.value.hoseEnd.kind === 'clamp')
        if (clamped && !keys.includes(`${x.line.id}-slide`)) say(`${x.line.id}: nothing is slid on`)
        if (keys.filter(ends).length !== 2) say(`${x.line.id}: an end without its step`)
        // a piece goes in before the hose goes on it; into a can, before that is hung
        for (const [i, e] of x.ends.entries())
          for (const p of e.chain.ok ? e.chain.value.pieces : []) {
            const key = `${x.line.id}-${i === 0 ? 'from' : 'to'}-${p.key}`.slice(0, 90)
            bad.push(...wrongWayRound(card, (k) => k === key, ends))
            if (!keys.includes(key)) say(`${key}: a piece without its step`)
            bad.push(
              ...wrongWayRound(
                card,
                (k) => k === key,
                (k) => k === `hang-${e.part.id}`,
              ),
            )
          }
      }
      const items = shoppingList(b, v)
      for (const c of couplingsOf(b, v)) if (!keys.includes(`${c.line.id}-join`)) say(`${c.line.id}: no step joins it`)
      for (const p of added) {
        const kind = v.parts.find((x) => x.id === p)!.kind
        const spoken = card.steps.some((x) => x.part === p) || made.some((x) => x.ends.some((e) => e.part.id === p))
        if (!spoken) say(`${kind} ${p} has no step`)
        if (!items.some((i) => i.for.includes(v.parts.find((x) => x.id === p)!.name))) say(`${p} is not on the list`)
      }
      // a bung is welded and tested with the cover off, and the cover is back before a hose goes on
      const bungs = bungsOf(strips)
      if (keys.filter((k) => k.startsWith('bung-test-')).length !== bungs.length) say('a weld is not tested')
      bad.push(
        ...wrongWayRound(
          card,
          (k) => k.startsWith('cover-off-'),
          (k) => k.startsWith('bung-'),
        ),
        ...wrongWayRound(
          card,
          (k) => /^bung-(?!test)/.test(k),
          (k) => k.startsWith('cover-on-'),
        ),
        ...wrongWayRound(
          card,
          (k) => k.startsWith('cover-on-'),
          (k) => /-(from|to)-(clamp|end)$/.test(k),
        ),
        ...wrongWayRound(
          card,
          (k) => k.startsWith('drill-'),
          (k) => /-(from|to)-/.test(k) && card.steps.find((x) => x.key === k)!.phase === 'Fit',
        ),
        ...wrongWayRound(
          card,
          (k) => k.startsWith('hang-'),
          (k) => k.startsWith('tighten-'),
        ),
      )
      // what is drilled is the engine, at a port of the plan
      for (const d of drillings(strips, unitFormatter(b.units)))
        if (!made.some((x) => x.ends.some((e) => d.at.startsWith(e.part.name) && !added.has(e.part.id))))
          say(`drilled: ${d.at}`)
      // said once
      const vacuum = [...card.cautions, ...card.steps.map((x) => x.says)].filter((x) => /vacuum: /.test(x))
      if (vacuum.length > 1) say('vacuum hose told twice')
    }
    expect(bad).toEqual([])
  })
})

test('readings: what a dial cannot show asks for a column of water; a column of 10 mm is 98 Pa', () => {
  const b = planOf('i5-turbo', 'both-sides')
  const { states } = figuresOf(b)
  const least = Math.min(...states.map((s) => (s.solved ? Math.abs(s.crankcaseGauge) : Infinity)))
  expect(least).toBeLessThan(500)
  expect(instrumentFor(states, unitFormatter(b.units))).toMatch(/column of water.*10 mm.*0\.10 kPa/)
  const strong = states.map((s) => (s.solved ? { ...s, crankcaseGauge: -3000 } : s))
  expect(instrumentFor(strong, unitFormatter(b.units))).toMatch(/gauge that shows 0\.60 kPa/)
  expect(instrumentFor([], unitFormatter(b.units))).toBeUndefined()
})

test('a deleted regulator: codes are read before and after', () => {
  const b = withoutRegulator()
  const keys = jobCard(b, activeVariant(b)).steps.map((s) => s.key)
  expect(keys).toContain('codes')
  expect(keys.indexOf('codes-after')).toBeGreaterThan(keys.indexOf('rub'))
  const stock = planOf('i5-turbo', 'both-sides')
  expect(jobCard(stock, activeVariant(stock)).steps.map((s) => s.key)).not.toContain('codes')
})

test('hours left: equal ticks say their sum, scattered ones a range about it, too few none of it', () => {
  expect(hoursOfTicks([600, 600, 600, 600, 600], 6)).toEqual({ low: 1, high: 1 })
  // by hand: mean 600 s, sample variance 100 000 s2, 10 left of 5 draws: 1.28 sqrt(1e5 (10 + 20)) = 2217 s
  const spread = hoursOfTicks([200, 400, 600, 800, 1000], 10)
  expect(spread.low).toBeCloseTo((6000 - 2217) / 3600, 3)
  expect(spread.high).toBeCloseTo((6000 + 2217) / 3600, 3)
  const b = planOf('i5-turbo', 'both-sides')
  const v = activeVariant(b)
  expect(cardHours(b, { left: 0, all: 10, usualHours: 4 })).toBeUndefined()
  const before = cardHours(b, { left: 10, all: 10, usualHours: 4 })!
  expect(before).toEqual({ low: 2.8, high: 7.2, fromTicks: false })
  const steps = jobCard(b, v).steps.slice(0, 5)
  const ticked = after(b, ...steps.map((s) => tickStep(v.id, s, '2026-05-01T10:00:00.000Z', 900)))
  expect(cardHours(ticked, { left: 8, all: 13, usualHours: 4 })).toEqual({ low: 2, high: 2, fromTicks: true })
})

test('a tap on a hose is bought, led and plugged, and no hand has to reach under the bowl any more', () => {
  const b = planOf('i5-turbo', 'vacuum-side-can')
  const v = (x: typeof b) => activeVariant(x)
  const tapped = after(b, setPart('can', { tapMm: 600 }))
  const bought = (x: typeof b) => shoppingList(x, v(x)).map((i) => i.key)
  expect(bought(tapped)).toEqual(expect.arrayContaining(['drain-tap', 'hose-rubber-9.5', 'pipe-3/8-barb-9.5']))
  expect(bought(b)).not.toContain('drain-tap')
  const keys = jobCard(tapped, v(tapped)).steps.map((s) => s.key)
  expect(keys.indexOf('tap-can')).toBeGreaterThan(keys.indexOf('hang-can'))
  const below = (x: typeof b) =>
    placeGround(x.bay!, v(x), v(x).parts.find((p) => p.id === 'can') as PartOf<'can'>).belowM
  expect(below(tapped)).toBeLessThan(below(b) / 1.9)
})
