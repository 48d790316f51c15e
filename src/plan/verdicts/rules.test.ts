/** Every rule on a circuit that breaks it and on one that does not; every rule has its page. */
import { analyse } from '../analyse'
import type { Build } from '../document/schema'
import { actionsFor } from '../edit/actions'
import { activeVariant, applyEdits } from '../edit/edit'
import { cut, setPart } from '../edit/edit-builders'
import { after, byEdits } from '../testing'
import { RULE_PAGES } from './pages'
import { RULES } from './rules'
import { schoolPlan, RULE_CASES } from './testing'
import { SEVERITIES } from './verdict'

const DAY = '2026-11-24'

test('what the reference tells of is what is judged, in the same order', () => {
  expect(RULE_PAGES.map(([id]) => id)).toEqual(RULES.map((r) => r.id))
})

test('every rule has a case', () => {
  const ids = RULES.map((r) => r.id).toSorted()
  expect(RULE_CASES.map((c) => c[0]).toSorted()).toEqual(ids)
})

const open = (b: Build, rule: string) => analyse(b, DAY).verdicts.filter((v) => v.rule === rule && v.severity !== 'ok')

test.each(RULE_CASES)(
  '%s speaks on the circuit that breaks it and is silent on the one that does not',
  (rule, breaks, keeps) => {
    const found = open(breaks, rule)
    expect(found.length).toBeGreaterThan(0)
    for (const v of found) {
      expect(v.title.length).toBeGreaterThan(5)
      expect(v.why.length).toBeGreaterThan(20)
      expect(`${v.title} ${v.why}`).not.toMatch(/NaN|undefined|Infinity/)
    }
    expect(open(keeps, rule)).toEqual([])
  },
)

test.each(RULE_CASES)('%s: a fix that is offered can be made, and lowers the finding or ends it', (rule, breaks) => {
  const rank = (v: { severity: (typeof SEVERITIES)[number] }) => SEVERITIES.indexOf(v.severity)
  for (const v of open(breaks, rule)) {
    if (!v.fix) continue
    const mended = after(breaks, byEdits(v.fix.edits))
    // the same finding: whatever number it tells now
    const still = open(mended, rule).find((x) => x.subject === v.subject)
    if (still) expect(rank(still)).toBeGreaterThan(rank(v))
  }
})

test('a return that hangs on the turbo drain is told of where suction draws at it, and one to the pan is not', () => {
  const canned = schoolPlan('breather-side-can')
  const led = (to: string) => {
    const here = activeVariant(canned).parts.find((p) => p.kind === 'can')!
    const offer = actionsFor(canned, activeVariant(canned), { kind: 'part', id: here.id }).find((a) =>
      a.label.endsWith(to),
    )!
    const then = applyEdits(canned, offer.edits)
    if (!then.ok) throw new Error(then.reason)
    return then.value
  }
  const turbo = open(led('to the turbo drain'), 'drain-back').filter((v) => v.subject.endsWith('-turbo-drain'))
  expect(turbo).toHaveLength(1)
  // the figure is the solution's own: crankcase less can, where it is largest
  const states = analyse(led('to the turbo drain'), DAY).states
  const suction = states.map((s) => {
    if (!s.solved) return 0
    const can = Object.keys(s.cans)[0]!
    return s.crankcaseGauge - s.gauge[`${can}.in`]!
  })
  expect(turbo[0]!.amount).toBeCloseTo(Math.max(...suction), 0)
  expect(open(led('to the block or pan'), 'drain-back').filter((v) => v.subject.endsWith('-turbo-drain'))).toEqual([])
})

test('a can whose media have filled costs more, and cleaning it is offered first', () => {
  const fouled = schoolPlan('vented-can', [setPart('can', { fouling: 12 })])
  const clean = schoolPlan('vented-can')
  const pull = (b: Build) => analyse(b, DAY).states.find((s) => s.id === 'boost')!
  const gauge = (b: Build) => {
    const s = pull(b)
    return s.solved ? s.crankcaseGauge : Infinity
  }
  expect(gauge(fouled)).toBeGreaterThan(gauge(clean) + 200)
  const verdicts = open(fouled, 'crankcase-pressure')
  expect(verdicts.some((v) => v.fix?.label.startsWith('Clean the'))).toBe(true)
})

test('a fresh-air line that a fix adds leads from the inlet tract to the cover that fewest lines use, and lets air in', () => {
  const closed = schoolPlan('stock', [cut('breather')])
  const [finding] = open(closed, 'fresh-air').filter((v) => v.fix)
  const mended = after(closed, byEdits(finding!.fix!.edits))
  const { lines, parts } = activeVariant(mended)
  const old = activeVariant(closed).lines
  const [added] = lines.filter((l) => l.kind === 'hose' && !old.some((x) => x.id === l.id))
  const cover = parts.find((p) => p.id === added!.to.part)!
  expect(cover.kind).toBe('cover')
  const uses = (id: string) => old.filter((l) => l.from.part === id || l.to.part === id).length
  const covers = parts.filter((p) => p.kind === 'cover')
  expect(uses(cover.id)).toBe(Math.min(...covers.map((p) => uses(p.id))))
  expect(open(mended, 'fresh-air').filter((v) => v.severity === 'fix' || v.severity === 'stop')).toEqual([])
})
