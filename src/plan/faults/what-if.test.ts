/** Failures one by one: each can be had by a valid build, and what it does is told state by state, graded by what follows. */
import { finish, type Job } from '@/core/job'
import { analyse } from '../analyse'
import { space, port } from '../catalogue/parts'
import type { EngineClass } from '../catalogue/engines'
import type { Build, Line } from '../document/schema'
import { validateBuild } from '../document/validate'
import { unitFormatter } from '../document/words'
import { addPart, cut, join, setField, setLine, setPart, unsplice } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { crankcaseText } from '../model/limits'
import { figuresOf } from '../model/figures'
import type { Figures } from '../model/results'
import { newBuild } from '../schools/new-build'
import { after } from '../testing'
import { faultsOf } from './faults'
import { withFault } from './graded-faults'
import { effectText, failures, type FaultOutcome } from './what-if'

const DAY = '2026-11-25'
const make = (school: string, engineClass: EngineClass = 'i5-turbo'): Build =>
  newBuild({ name: 'x', engineClass, use: 'street', ambientC: 10, units: 'metric', school })
// eslint-disable-next-line require-yield
function* still(build: Build): Job<Figures> {
  return figuresOf(build)
}
const outcomes = (b: Build): readonly FaultOutcome[] => finish(failures(b, still))
const say = unitFormatter(make('stock').units)

test.each([
  ['both-sides', 'i5-turbo'],
  ['separator-return', 'v8-na'],
  ['vented-can', 'i4-na'],
] as const)('%s on %s: a failure of every kind, each of a valid build', (school, engineClass) => {
  const b = make(school, engineClass)
  const ids = faultsOf(b).map((f) => f.id)
  for (const kind of ['swapped', 'cap-loose', 'oil-overfull', 'left-open', '-off', '-flat', 'frozen', 'rings-worn'])
    expect(ids.some((id) => id.includes(kind))).toBe(true)
  expect(ids.some((id) => id.endsWith('-full'))).toBe(school === 'separator-return')
  for (const id of ids) {
    const v = validateBuild(JSON.parse(JSON.stringify(withFault(b, id))))
    expect([id, v.ok ? [] : v.problems]).toEqual([id, []])
  }
})

test('every state whose crankcase turns from suction to pressure is told, and the gravest leads', () => {
  const b = make('stock', 'v8-mid')
  const was = figuresOf(b)
  let flips = 0
  for (const o of outcomes(b)) {
    const now = figuresOf(withFault(b, o.id)!)
    for (const s of was.states) {
      const then = now.states.find((x) => x.id === s.id)!
      if (!s.solved || !then.solved || s.crankcaseGauge > -50 || then.crankcaseGauge < 50) continue
      flips++
      const effect = o.states.find((e) => e.id === s.id)!
      expect(effect.before).toBe(s.crankcaseGauge)
      expect(effect.after).toBe(then.crankcaseGauge)
      // a kilopascal of suction that is lost is more than a watch
      if (s.crankcaseGauge < -1000) expect(['stop', 'fix']).toContain(effect.severity)
      expect(['stop', 'fix', 'watch']).toContain(o.severity)
    }
  }
  expect(flips).toBeGreaterThan(2)
})

test('gas that only runs faster in a hose is no more than a watch', () => {
  for (const o of outcomes(make('both-sides', 'i6-turbo')))
    if (o.verdicts.length > 0 && o.verdicts.every((v) => v.rule === 'velocity') && o.states.length === 0)
      expect(['watch', 'ok']).toContain(o.says.startsWith('Oil to') ? 'ok' : o.severity)
})

test('a leak of air is told at idle where it leaks there, by the larger of its openings', () => {
  const b = make('vacuum-side-can', 'i4-na')
  const suction = activeVariant(b).lines.find((l) => l.to.part === 'manifold' || l.from.part === 'manifold')!
  const off = outcomes(b).find((o) => o.id === `${suction.id}-off`)!
  const leak = off.verdicts.find((v) => v.rule === 'vacuum-leak')!
  expect(leak.at.state).toBe('idle')
  // the manifold's own nipple, not the far end through can and valve
  const stated = Number(/^([\d.]+) l\/min/.exec(leak.title)![1])
  const s = figuresOf(withFault(b, off.id)!).states.find((x) => x.id === 'idle')!
  if (!s.solved) throw new Error('no idle')
  const air = Object.entries(s.into).find(([id]) => id.endsWith('-open'))![1].gas
  expect(stated * (1.204119e-3 / 60)).toBeLessThanOrEqual(-air * 1.01)
})

test('a full separator passes everything on, a swapped can keeps less, and both are told', () => {
  const b = make('separator-return')
  const all = outcomes(b)
  const caught = (id: string) => {
    const s = figuresOf(withFault(b, id)!).states.find((x) => x.id === 'boost')!
    return s.solved ? s.cans.separator!.caught.splash : Number.NaN
  }
  expect(caught('separator-full')).toBe(0)
  expect(all.find((o) => o.id === 'separator-full')!.says).toMatch(/^Oil to the intake rises/)
  expect(all.find((o) => o.id === 'separator-swapped')!.severity).not.toBe('ok')
})

describe('what a plan has lost is put back', () => {
  const fixes = (b: Build) => analyse(b, DAY).verdicts.flatMap((v) => v.fix?.label ?? [])
  test('a line that is off', () => {
    expect(fixes(after(make('stock'), cut('breather')))).toContain('Put the breather line back')
  })
  test('a check that is missing', () => {
    const without = after(make('two-outlets'), unsplice('check-manifold'))
    expect(fixes(without).some((label) => /^(Put the .*check.* back|Fit a check valve)/.test(label))).toBe(true)
  })
  test('nothing, where nothing is missing', () => {
    expect(fixes(make('both-sides')).filter((label) => label.startsWith('Put the'))).toEqual([])
  })
})

test('a manifold port that opens to the air apart from the crankcase is a leak all the same', () => {
  const air = space('atmosphere', 'stray-air', 'Open end', port('a', 'Open'))
  const line: Line = {
    ...activeVariant(make('stock')).lines.find((l) => l.kind === 'hose')!,
    id: 'stray',
    name: 'Stray hose',
    from: { part: 'stray-air', port: 'a' },
    to: { part: 'manifold', port: 'spare' },
    boreMm: 8,
  }
  const vented = make('vented-can', 'v8-na')
  const b = after(
    vented,
    ...(activeVariant(vented).parts.some((p) => p.id === 'manifold')
      ? []
      : [addPart(space('manifold', 'manifold', 'Intake manifold', port('spare', 'Spare')))]),
    addPart(air),
    join(line),
  )
  const leak = analyse(b, DAY).verdicts.find((v) => v.rule === 'vacuum-leak')!
  expect(leak).toMatchObject({ severity: 'stop', subject: 'stray-air', at: { line: 'stray', state: 'idle' } })
  expect(leak.fix!.label).toMatch(/plug the vacuum port/)
  expect(analyse(after(b, cut('stray')), DAY).verdicts.some((v) => v.rule === 'vacuum-leak')).toBe(false)
})

describe('words that the figures bear', () => {
  const found = (b: Build, rule: string) => analyse(b, DAY).verdicts.filter((v) => v.rule === rule)
  test('past what seals hold no figure is told', () => {
    expect(crankcaseText(say, -19_000)).toBe('−19 kPa')
    expect(crankcaseText(say, -76_000)).toBe('below −20 kPa')
    const sucked = after(
      make('stock', 'i4-na'),
      setPart('pcv', { stuck: 'open' }),
      setLine('breather', { boreMm: 1.5 }),
    )
    const low = found(sucked, 'crankcase-pressure').find((v) => v.subject === 'low')!
    expect(low.title).toMatch(/^Crankcase sucked below −20 kPa/)
    expect(effectText({ id: 'idle', before: -100, after: -50_000, severity: 'stop' }, say)).toMatch(
      /to below −20 kPa\.$/,
    )
  })
  test('slight is what is slight', () => {
    const title = (b: Build) => found(b, 'crankcase-pressure').find((v) => v.subject === 'good')?.title
    expect(title(make('stock', 'i4-super'))).toBe('Crankcase under vacuum in every state')
    expect(title(after(make('stock', 'i4-super'), setField(['engine', 'boostKpa'], 5)))).toMatch(
      /^Crankcase under (slight )?vacuum/,
    )
  })
  test('more air than the engine idles on is not a share to tune for', () => {
    const b = after(make('stock', 'i4-na'), setPart('pcv', { stuck: 'open' }), setLine('suction', { boreMm: 19 }))
    const idle = found(b, 'idle-bypass')[0]!
    const share = Number(/^(\d+) % of idle air/.exec(idle.why)?.[1] ?? 101)
    if (share > 100) expect(idle.why).toMatch(/^More than the engine idles on/)
    else expect(idle.why).toMatch(/% of idle air/)
  })
  test('a crankcase that boost blows into is not blamed on its way out', () => {
    const b = after(make('vacuum-side-can'), setPart('pcv', { stuck: 'open' }))
    const high = found(b, 'crankcase-pressure').find((v) => v.subject === 'high')!
    expect(high.why).toMatch(/comes in from the intake manifold on top of the blow-by/)
    expect(high.why).not.toMatch(/too narrow/)
  })
})

test('the maker’s own circuits: what he accepts is no finding, the least of them are free of any', () => {
  const open = (engineClass: EngineClass) =>
    analyse(make('stock', engineClass), DAY).verdicts.filter((v) => v.severity !== 'ok')
  for (const c of ['i4-turbo', 'i6-turbo', 'v8-na', 'v6-na', 'i6-strong', 'f6-mid'] as const) {
    expect(open(c).filter((v) => v.rule === 'velocity')).toEqual([])
    expect(open(c).filter((v) => v.rule === 'idle-bypass')).toEqual([])
  }
  for (const c of ['v8-na', 'v6-na', 'i4-na', 'f6-mid', 'v8-mid', 'v8-dry'] as const)
    expect(open(c).filter((v) => v.rule !== 'breather-unprotected')).toEqual([])
})
