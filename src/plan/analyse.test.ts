import { analyse } from './analyse'
import { USES } from './catalogue/uses'
import { ENGINE_CLASSES, type EngineClass } from './catalogue/engines'
import type { SolvedState } from './model/results'
import { validateBuild } from './document/validate'
import { FORMAT_VERSION } from './document/bounds'
import type { Build } from './document/schema'
import {
  upsertLogEntry,
  perform,
  setField,
  setLine,
  setPart,
  splice,
  deleteLogEntry,
  unsplice,
  type EditBuilder,
} from './edit/edit-builders'
import { activeVariant } from './edit/edit'
import { byEdits, after, badNumbers, NEVER } from './testing'
import { newBuild } from './schools/new-build'
import { finish } from '@/core/job'
import { influences } from './studies/sensitivity'
import { restrictor } from './catalogue/parts'

const DAY = '2026-11-24'
const build = (engineClass: EngineClass = 'i5-turbo', more: Partial<Parameters<typeof newBuild>[0]> = {}) =>
  newBuild({ name: 'Test', engineClass, use: 'street-track', ambientC: 10, units: 'metric', ...more })
const state = (b: Build, id: string) => analyse(b, DAY).states.find((s) => s.id === id) as SolvedState
const rules = (b: Build, severity = /stop|fix|watch/) =>
  analyse(b, DAY)
    .verdicts.filter((v) => severity.test(v.severity))
    .map((v) => v.rule)
const fixOf = (b: Build, rule: string) => analyse(b, DAY).verdicts.find((v) => v.rule === rule && v.fix)?.fix

describe('a new build', () => {
  test.each(ENGINE_CLASSES.flatMap((c) => USES.map((u) => [c.key, u.key] as const)))(
    '%s for %s is valid and solves in every state',
    (engineClass, use) => {
      const b = build(engineClass, { use })
      expect(validateBuild(b)).toEqual({ ok: true, build: b })
      const a = analyse(b, DAY)
      expect(a.states.every((s) => s.solved)).toBe(true)
      expect(badNumbers(a, NEVER)).toEqual([])
    },
  )
})

describe('vacuum-side can', () => {
  const b = build()
  test('at idle the manifold sucks through the can and fresh air enters by the breather', () => {
    const s = state(b, 'idle')
    expect(s.passages.suction!.flow).toBeGreaterThan(s.blowBy)
    expect(s.passages.breather!.flow).toBeLessThan(0)
    expect(s.passages.breather!.oil).toEqual({ mist: 0, splash: 0 })
  })
  test('in boost the PCV valve shuts and everything turns round to the inlet', () => {
    const s = state(b, 'boost')
    expect(Math.abs(s.passages.suction!.flow)).toBeLessThan(1e-9)
    expect(s.passages.breather!.flow).toBeCloseTo(s.blowBy, 9)
  })
  test('gas is conserved: what leaves over the borders is the blow-by, in every state', () => {
    for (const s of analyse(b, DAY).states as SolvedState[])
      expect(Object.values(s.into).reduce((t, x) => t + x.gas, 0)).toBeCloseTo(s.blowBy, 9)
  })
  test('a wider breather lowers the crankcase pressure in boost', () => {
    expect(state(after(b, setLine('breather', { boreMm: 25.4 })), 'boost').crankcaseGauge).toBeLessThan(
      state(b, 'boost').crankcaseGauge,
    )
  })
})

describe('verdicts come, and go with their fix', () => {
  const b = build()
  test('the can sees boost until a check valve stands at the manifold', () => {
    expect(rules(b)).toContain('can-sees-boost')
    const mended = after(b, byEdits(fixOf(b, 'can-sees-boost')!.edits))
    expect(rules(mended)).not.toContain('can-sees-boost')
    expect(validateBuild(mended).ok).toBe(true)
  })
  test('the breather side is unprotected until a can stands in it', () => {
    expect(rules(b)).toContain('breather-unprotected')
    expect(rules(after(b, byEdits(fixOf(b, 'breather-unprotected')!.edits)))).not.toContain('breather-unprotected')
  })
  test('a PCV valve stuck open lets boost into the crankcase, and the offered check valve holds it', () => {
    const stuck = after(b, setPart('pcv', { stuck: 'open' }))
    expect(rules(stuck, /stop/)).toContain('boost-in-crankcase')
    const mended = after(stuck, byEdits(fixOf(stuck, 'boost-in-crankcase')!.edits))
    expect(rules(mended)).not.toContain('boost-in-crankcase')
  })
  test('a narrow breather raises the crankcase above its limit; widening is offered and works', () => {
    const narrow = after(b, setLine('breather', { boreMm: 9.5 }))
    expect(rules(narrow, /stop/)).toContain('crankcase-pressure')
    const fix = fixOf(narrow, 'crankcase-pressure')!
    expect(rules(after(narrow, byEdits(fix.edits)), /stop/)).not.toContain('crankcase-pressure')
  })
  test('a wide open idle bleed is too much air past the throttle; a restrictor cures it', () => {
    const leaky = after(b, setPart('pcv', { areaMm2ByKpa: [[0, 30]], model: 'own' }))
    expect(rules(leaky, /fix/)).toContain('idle-bypass')
    expect(rules(after(leaky, byEdits(fixOf(leaky, 'idle-bypass')!.edits)), /fix/)).not.toContain('idle-bypass')
  })
  test('a plugged breather leaves no fresh-air path', () => {
    const plugged = after(b, setLine('breather', { boreMm: 0 }))
    expect(rules(plugged, /stop/)).toContain('fresh-air')
    expect(rules(b)).not.toContain('fresh-air')
  })
  test('gas too fast for its hose is said, and gone in a wider one', () => {
    const fast = after(b, setLine('breather', { boreMm: 14.3 }))
    expect(rules(fast)).toContain('velocity')
    const fixes = analyse(fast, DAY)
      .verdicts.filter((v) => v.rule === 'velocity')
      .flatMap((v) => v.fix!.edits)
    expect(rules(after(fast, byEdits(fixes)))).not.toContain('velocity')
  })
  test('frost warns of ice, warmth does not', () => {
    const cold = {
      ...b,
      duty: { ...b.duty, hours: { ...b.duty.hours, shortCold: 3 } },
      site: { ...b.site, ambientC: -12 },
    }
    expect(rules(cold)).toContain('freezing')
    expect(rules(b)).not.toContain('freezing')
  })
  test('a can that fills before the next look is said', () => {
    const tiny = after(b, setPart('can', { bowlMl: 8 }))
    expect(rules(tiny)).toContain('fill')
    expect(rules(b)).not.toContain('fill')
  })
})

describe('the log teaches the forecast', () => {
  const b = build('v8-na')
  const log = (
    kind: 'fitted' | 'emptied',
    id: string,
    date: string,
    { odometerKm, ml }: { odometerKm: number; ml?: number },
  ): EditBuilder =>
    upsertLogEntry({
      id,
      date,
      kind,
      odometerKm,
      part: 'can',
      ...(ml === undefined ? {} : { ml, waterMl: 0 }),
      reading: undefined,
    } as never)
  const before = after(b, log('fitted', 'a', '2026-01-01', { odometerKm: 1000 }))
  const once = analyse(before, DAY).cans[0]!
  test('an emptying that found thrice what was expected shortens and narrows it', () => {
    const expected = once.perMetre.oil * 3000e3 * 1e6
    const then = analyse(after(before, log('emptied', 'b', '2026-06-01', { odometerKm: 4000, ml: 3 * expected })), DAY)
      .cans[0]!
    expect(then.multiplier.entries).toBe(1)
    expect(then.distance.mid).toBeLessThan(0.5 * once.distance.mid)
    expect(then.distance.high / then.distance.low).toBeLessThan(once.distance.high / once.distance.low)
  })
  test('entries stand in the order of their days, and one can be taken out again', () => {
    const twice = after(
      before,
      log('emptied', 'c', '2026-07-01', { odometerKm: 5000, ml: 10 }),
      log('emptied', 'b', '2026-06-01', { odometerKm: 4000, ml: 10 }),
    )
    expect(twice.log.map((e) => e.id)).toEqual(['a', 'b', 'c'])
    expect(after(twice, deleteLogEntry('b')).log.map((e) => e.id)).toEqual(['a', 'c'])
  })
})

describe('a measured blow-by', () => {
  test('replaces the estimate in every state', () => {
    const b = build()
    const m = after(b, setField(['engine', 'blowBy'], { state: 'boost', lpm: 300 }))
    expect((state(m, 'boost').blowBy / 1.204119e-3) * 60).toBeCloseTo(300, 6)
    expect(state(m, 'idle').blowBy / state(b, 'idle').blowBy).toBeCloseTo(
      300 / ((state(b, 'boost').blowBy / 1.204119e-3) * 60),
      6,
    )
  })
})

describe('edits', () => {
  const b = build()
  test('splicing a part cuts a hose in two of the same length, and taking it out joins them again', () => {
    const cut = after(b, splice('suction', restrictor('r', 'Restrictor', 3), 'to'))
    const lines = activeVariant(cut).lines.filter((l) => l.id.startsWith('suction'))
    expect(lines.map((l) => l.lengthMm).reduce((s, x) => s + x, 0)).toBe(550)
    expect(validateBuild(cut).ok).toBe(true)
    const joined = activeVariant(after(cut, unsplice('r')))
    expect(joined.lines).toHaveLength(activeVariant(b).lines.length)
    expect(joined.lines.find((l) => l.id === 'suction')).toEqual(activeVariant(b).lines.find((l) => l.id === 'suction'))
  })
  test('an edit that does not fit says so and changes nothing', () => {
    expect(perform(b, splice('none', restrictor('r', 'R', 3), 'to'))).toMatchObject({
      ok: false,
    })
    expect(perform(b, setField(['engine', 'nothing', 'deeper'], 1))).toMatchObject({ ok: false })
    expect(perform(b, setField(['__proto__', 'x'], 1))).toMatchObject({ ok: false })
  })
})

describe('documents', () => {
  const good = build()
  const mutate = (change: (b: Record<string, never>) => void) => {
    const copy = structuredClone(good) as unknown as Record<string, never>
    change(copy)
    return validateBuild(copy)
  }
  const says = (v: ReturnType<typeof validateBuild>) =>
    v.ok ? 'ok' : v.problems.map((p) => `${p.path}: ${p.message}`).join('\n')
  test.each<[string, (b: any) => void, RegExp]>([
    // oxlint-disable-line typescript/no-explicit-any
    [
      'text for a number',
      (b) => {
        b.engine.boreMm = 'wide'
      },
      /engine › boreMm: must be a number/,
    ],
    [
      'a number too large',
      (b) => {
        b.engine.cylinders = 400
      },
      /engine › cylinders: must be at most 12/,
    ],
    [
      'a negative size',
      (b) => {
        b.variants[0].lines[4].boreMm = -3
      },
      /lines › 5 › boreMm: must be at least 0/,
    ],
    [
      'NaN',
      (b) => {
        b.engine.compression = Number.NaN
      },
      /engine › compression: must be a number/,
    ],
    [
      'a missing field',
      (b) => {
        delete b.engine.ratedRpm
      },
      /engine › ratedRpm: is missing/,
    ],
    [
      'a field that is not known',
      (b) => {
        b.engine.colour = 'red'
      },
      /engine: has a field that is not known: colour/,
    ],
    [
      'a dangling line',
      (b) => {
        b.variants[0].lines[4].to.part = 'gone'
      },
      /to: goes to the part gone, which does not exist/,
    ],
    [
      'a port that is not there',
      (b) => {
        b.variants[0].lines[4].to.port = 'side'
      },
      /goes to the port side/,
    ],
    [
      'two lines on a port',
      (b) => {
        b.variants[0].lines[4].to = { part: 'can', port: 'in' }
      },
      /takes the port that/,
    ],
    [
      'two engines',
      (b) => {
        b.variants[0].parts.push({ ...b.variants[0].parts[0], id: 'second' })
      },
      /has 2 crankcases/,
    ],
    [
      'a part of no known kind',
      (b) => {
        b.variants[0].parts[0].kind = 'rocket'
      },
      /unknown kind/,
    ],
    [
      'a can with a stage of no known kind',
      (b) => {
        b.variants[0].parts.find((p: any) => p.kind === 'can').stages[0].type = 'magic'
      },
      /unknown kind/,
    ], // oxlint-disable-line typescript/no-explicit-any
    [
      'a wrong format',
      (b) => {
        b.format = 'other'
      },
      /not a file of a build/,
    ],
    [
      'a version to come',
      (b) => {
        b.version = FORMAT_VERSION + 1
      },
      /Use a newer Ivent/,
    ],
    [
      'no use at all',
      (b) => {
        for (const k of Object.keys(b.duty.hours)) b.duty.hours[k] = 0
      },
      /duty › hours: are all zero/,
    ],
    [
      'thousands of parts',
      (b) => {
        b.variants[0].parts = Array.from({ length: 5000 }, () => b.variants[0].parts[0])
      },
      /has 5000; at most 80/,
    ],
  ])('%s is named with its place', (_, change, expected) => {
    expect(says(mutate(change))).toMatch(expected)
  })
  test.each([[null], [[]], ['text'], [42], [{}]])('%p is no build', (input) => {
    expect(validateBuild(input).ok).toBe(false)
  })
  test('a build written and read again is the same build', () => {
    expect(validateBuild(JSON.parse(JSON.stringify(good)))).toEqual({ ok: true, build: good })
  })
})

describe('what moves a figure most', () => {
  const b = build()
  test('crankcase pressure in boost depends most on the inlet depression and the blow-by', () => {
    const names = finish(influences(b, DAY, { kind: 'crankcase', state: 'boost' }, 20)).map((i) => i.name)
    expect(names[0]).toBe('Inlet depression, rated')
    expect(names.join()).toMatch(/Blow-by/)
  })
})

test("what was learned with one plan is carried to another, a little wider, and its log is not taken for the other's", () => {
  const b = build()
  const two: Build = {
    ...b,
    variants: [b.variants[0]!, { ...b.variants[0]!, id: 'b', name: 'Other' }],
    log: [
      { id: '1', date: '2026-01-01', kind: 'fitted', odometerKm: 1000, part: 'can', plan: 'a' },
      { id: '2', date: '2026-03-01', kind: 'emptied', odometerKm: 3000, part: 'can', ml: 90, waterMl: 10, plan: 'a' },
    ] as Build['log'],
  }
  const mine = analyse(two, DAY).cans[0]!
  const other = analyse({ ...two, active: 'b' }, DAY).cans[0]!
  expect([mine.startsFrom, other.startsFrom, mine.history.length, other.history.length]).toEqual([
    'estimates',
    'other plan',
    1,
    0,
  ])
  expect(other.multiplier.mu).toBeCloseTo(mine.multiplier.mu, 9)
  expect(other.multiplier.sigma).toBeGreaterThan(mine.multiplier.sigma)
  expect(other.emptyAt).toBeUndefined()
})
