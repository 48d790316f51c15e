/** What holds for every plan: a class of engine each, its schools drawn in turn, with a bay where a return needs one. */
import { evaluate } from '../src/plan/analyse'
import { drainInBay } from '../src/plan/bay/drains'
import { setBay } from '../src/plan/bay/bay-builders'
import { bayFor, readyBay } from '../src/plan/catalogue/bays'
import { ENGINE_CLASSES } from '../src/plan/catalogue/engines'
import { check } from '../src/plan/catalogue/parts'
import type { Build } from '../src/plan/document/schema'
import { activeVariant } from '../src/plan/edit/edit'
import { reverseValve, setField, setLine, setPart, splice } from '../src/plan/edit/edit-builders'
import { oilSum } from '../src/plan/model/results'
import { newBuild } from '../src/plan/schools/new-build'
import { SCHOOLS } from '../src/plan/schools/schools'
import { after } from '../src/plan/testing'

const TODAY = '2026-06-01'
const MORE = 1 + 1e-9
const make = (
  engineClass: (typeof ENGINE_CLASSES)[number]['key'],
  school: string,
  use: 'street' | 'track' = 'street',
) => newBuild({ name: school, engineClass, use, ambientC: 15, units: 'metric', school })
/** Two plans a class, so that all schools come up about three times. */
const plans = ENGINE_CLASSES.flatMap(({ key }, k) =>
  [0, 7].map((more) => make(key, SCHOOLS[(3 * k + more) % SCHOOLS.length]!.key)),
)
const cansOf = (b: Build) => activeVariant(b).parts.filter((p) => p.kind === 'can')
const caught = (b: Build, id: string) =>
  evaluate(b, TODAY).states.map((s) => (s.solved ? oilSum(s.cans[id]?.caught) : undefined))

test('a can plumbed the wrong way round never keeps a larger share of what comes to it, in any state', () => {
  let tried = 0
  for (const b of plans)
    for (const { id } of cansOf(b)) {
      const share = (x: Build) =>
        evaluate(x, TODAY).states.map((s) => {
          const can = s.solved ? s.cans[id] : undefined
          return can && oilSum(can.oilIn) > 0 ? oilSum(can.caught) / oilSum(can.oilIn) : undefined
        })
      const [right, wrong] = [share(b), share(after(b, reverseValve(id)))]
      right.forEach((r, i) => {
        if (r === undefined || wrong[i] === undefined) return
        tried++
        // where gas runs backwards through it, it is the turned can that stands right
        const [most, least] = [Math.max(r, wrong[i]), Math.min(r, wrong[i])]
        expect(least).toBeLessThanOrEqual(0.67 * most)
      })
    }
  expect(tried).toBeGreaterThan(60)
})

test('a check in a drain never leaves it more head, in any state', () => {
  let tried = 0
  for (const { key } of ENGINE_CLASSES) {
    const bare = make(key, 'separator-return')
    const b = after(bare, setBay(readyBay(bare, activeVariant(bare), bayFor(bare.engine))))
    const ret = activeVariant(b).lines.find((l) => l.kind === 'drain')!
    const can = cansOf(b)[0]!.id
    const headsOf = (x: Build) => drainInBay(x, activeVariant(x), evaluate(x, TODAY).states, can)!.states
    const before = headsOf(b)
    for (const crackKpa of [0, 0.4, 2]) {
      const valve = { ...check('drain-check', 'Drain check', 'small'), crackKpa } as never
      headsOf(after(b, splice(ret.id, valve, 'middle'))).forEach((s, i) => {
        tried++
        expect(s.headM).toBeLessThanOrEqual(before[i]!.headM + 1e-9)
      })
    }
  }
  expect(tried).toBeGreaterThan(150)
})

test('a line that climbs never brings a can more oil, and one that falls brings what a level one does', () => {
  for (const b of plans)
    for (const { id } of cansOf(b)) {
      const line = activeVariant(b).lines.find((l) => l.kind === 'hose' && l.to.part === id && l.to.port === 'in')
      if (!line) continue
      const [level, up, down] = [0, 400, -400].map((riseMm) => caught(after(b, setLine(line.id, { riseMm })), id))
      level!.forEach((kg, i) => {
        if (kg === undefined) return
        // gas that runs back through the line climbs where it fell
        expect(Math.min(up![i]!, down![i]!)).toBeLessThanOrEqual(kg * MORE)
        expect(Math.max(up![i]!, down![i]!)).toBeGreaterThanOrEqual(kg / MORE)
      })
    }
})

test('slicks throw more than road tyres do on track, and nothing on the road', () => {
  for (const school of ['both-sides', 'vented-can']) {
    for (const use of ['track', 'street'] as const) {
      const b = make('v8-na', school, use)
      const slicks = after(b, setField(['duty', 'tyres'], 'slicks'))
      const [road, hard] = [b, slicks].map((x) => evaluate(x, TODAY).cans[0]!)
      if (use === 'street') expect(hard!.perMetre.oil).toBe(road!.perMetre.oil)
      else expect(hard!.sessions.mid).toBeLessThan(0.8 * road!.sessions.mid)
    }
  }
})

test('the side that a builder says a bowl opens to comes before its kind', () => {
  const bare = make('i5-turbo', 'separator-return')
  const b = after(bare, setBay(readyBay(bare, activeVariant(bare), bayFor(bare.engine))))
  const can = cansOf(b)[0]!.id
  const columns = (x: Build) =>
    drainInBay(x, activeVariant(x), evaluate(x, TODAY).states, can)!.states.map((s) => s.columnM)
  const [inlet, outlet] = (['inlet', 'outlet'] as const).map((bowl) => columns(after(b, setPart(can, { bowl }))))
  // a hollow one opens to the side that gas comes in by, whichever that is; suction there holds up less
  columns(b).forEach((m, i) => expect(m).toBe(Math.min(inlet![i]!, outlet![i]!)))
  expect(inlet).not.toEqual(outlet)
})
