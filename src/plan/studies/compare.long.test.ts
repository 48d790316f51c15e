import { compare } from './compare'
import { comparisonCsv, comparisonSheet, conclusion } from './comparison'
import { faultsOf } from '../faults/faults'
import { withFault } from '../faults/graded-faults'
import { differences } from './differences'
import type { Build } from '../document/schema'
import { finish } from '@/core/job'
import { newBuild } from '../schools/new-build'
import type { EngineClass } from '../catalogue/engines'
import { changedVerdicts } from '../verdicts/outcome'
import { SEVERITIES } from '../verdicts/verdict'
import { rankSchools, type Ranking } from './rank'
import { legalNote, planName, schoolOf, variantOf } from '../schools/schools'
import { failures } from '../faults/what-if'
import { badNumbers } from '../testing'
import { validateBuild } from '../document/validate'

const DAY = '2026-11-24'
const base = newBuild({ name: 'Test', engineClass: 'i5-turbo', use: 'street-track', ambientC: 10, units: 'metric' })
const several = (...keys: string[]): Build => ({
  ...base,
  variants: [base.variants[0]!, ...keys.map((k) => variantOf(schoolOf(k)!, base.engine, k))],
})

test('plans side by side say what each costs and what it keeps out', () => {
  const rows = finish(compare(several('both-sides', 'vented-can'), DAY))
  expect(rows.map((r) => r.letter)).toEqual(['A', 'B', 'C'])
  expect(rows[1]!.intakeOil).toBeLessThan(rows[0]!.intakeOil)
  expect(rows.map((r) => r.sealed)).toEqual([true, true, false])
  expect(rows[1]!.parts).toBe(rows[0]!.parts + 1)
  for (const r of rows)
    for (const s of r.states) expect(s.band!.low <= s.gauge! + 1 && s.band!.high >= s.gauge! - 1).toBe(true)
  const sheet = comparisonSheet(base, rows)
  expect(sheet.every((r) => r.length === 4)).toBe(true)
  expect(sheet.flat().filter((cell) => /NaN|undefined|Infinity/.test(cell))).toEqual([])
  expect(badNumbers(rows, /interval$/)).toEqual([])
})

test('a wider breather is told in words, with what it does', () => {
  const b = several()
  const wide = {
    ...b.variants[0]!,
    id: 'wide',
    name: 'Wide',
    lines: b.variants[0]!.lines.map((l) => (l.id === 'breather' ? { ...l, boreMm: 25.4 } : l)),
  }
  const [d] = differences({ ...b, variants: [b.variants[0]!, wide] }, 'a', 'wide')
  expect(d!.what).toBe('1 in instead of 3/4 in on the breather line')
  expect(d!.effect).toMatch(/^lowers the crankcase in boost from −2\.\d kPa to −2\.\d kPa/)
  expect(differences(b, 'a', 'a')).toEqual([])
})

test('a part more or less is named with what the whole change does', () => {
  const [d] = differences(several('both-sides'), 'a', 'both-sides')
  expect(d!.what).toMatch(/^with breather can/)
  expect(d!.effect).toMatch(/takes oil to the intake from \d.* to \d.* per 1 000 km/)
})

describe('what if', () => {
  const b = { ...base, variants: [variantOf(schoolOf('two-outlets')!, base.engine, 'a')] }
  test('every failure leaves a whole circuit, and the plan as it was', () => {
    const before = JSON.stringify(b)
    for (const f of faultsOf(b)) {
      const v = validateBuild(JSON.parse(JSON.stringify(withFault(b, f.id))))
      expect([f.id, v.ok ? [] : v.problems]).toEqual([f.id, []])
    }
    expect(JSON.stringify(b)).toBe(before)
    expect(withFault(b, 'no such thing')).toBeUndefined()
  })
  test('the manifold check stuck open lets boost through, and the sentence says where it leaves', () => {
    const list = finish(failures(b))
    const stuck = list.find((o) => o.id === 'check-manifold-open')!
    expect(stuck).toMatchObject({ state: 'boost' })
    // the other check lets it into the inlet tract before it can come to the crankcase
    expect(stuck.says).toMatch(/of boost leaks out by the inlet, ahead of compressor/)
    // worst first
    const ranks = list.map((o) => SEVERITIES.indexOf(o.severity))
    expect(ranks).toEqual(ranks.toSorted((x, y) => x - y))
    expect(list.length).toBe(faultsOf(b).length)
  })
  test('with no other way out the same failure blows into the crankcase', () => {
    const v = variantOf(schoolOf('vacuum-side-can')!, base.engine, 'a')
    const o = finish(failures({ ...base, variants: [v] })).find((x) => x.id === 'pcv-open')!
    expect(o).toMatchObject({ severity: 'stop', state: 'boost' })
    expect(o.says).toMatch(/of boost blows back into the cam cover/)
  })
  test('a failure is not blamed for what stood before it', () => {
    const v = {
      severity: 'stop',
      rule: 'velocity',
      subject: 'a',
      title: '',
      why: '',
      at: { station: 'circuit' },
    } as const
    expect(changedVerdicts([v], [v])).toEqual([])
    expect(changedVerdicts([{ ...v, severity: 'watch' }], [v])).toEqual([v])
    expect(changedVerdicts([{ ...v, amount: 1 }], [{ ...v, amount: 1.2 }])).toEqual([])
    expect(changedVerdicts([{ ...v, amount: 1 }], [{ ...v, amount: 2 }])).toHaveLength(1)
  })
  test('a frozen can with no other way out is told as such', () => {
    const vented = { ...base, variants: [variantOf(schoolOf('vented-can')!, base.engine, 'a')] }
    const frozen = finish(failures(vented)).find((o) => o.id === 'can-frozen')!
    expect(frozen).toMatchObject({ severity: 'stop', name: 'Vented can frozen or clogged' })
  })
})

describe('which, and is it worth it', () => {
  const known = new Map<string, Ranking>()
  const rank = (engineClass: EngineClass, use: 'street' | 'track'): Ranking => {
    const key = `${engineClass} ${use}`
    const r =
      known.get(key) ??
      finish(rankSchools(newBuild({ name: 'T', engineClass, use, ambientC: 20, units: 'metric' }), DAY))
    known.set(key, r)
    return r
  }
  const at = (r: Ranking, key: string) => r.ranked.findIndex((x) => x.key === key)

  test('the road wants it sealed; a car that is trailered breathes into the open', () => {
    const street = rank('i5-turbo', 'street')
    expect(street.ranked[0]!.sealed).toBe(true)
    expect(at(street, 'vented-can')).toBe(street.ranked.length - 1)
    expect(at(rank('v8-na', 'track'), 'vented-can')).toBe(0)
    expect(at(rank('i5-turbo', 'track'), 'vented-can')).toBe(0)
  })
  test('a boosted direct-injected engine gains a lot, a port-injected street engine little, and the numbers stand beside it', () => {
    const [direct, port] = [rank('i5-turbo', 'street').worth, rank('v8-na', 'street').worth]
    expect(direct.answer).toBe('much')
    expect(port.answer).toBe('little')
    for (const w of [direct, port]) for (const text of w.says) expect(text).toMatch(/\d/)
    expect(direct.says[1]).toMatch(/nothing washes the valves/)
    expect(port.says[1]).toMatch(/fuel washes the valves/)
  })
  test('the stock circuit is the yardstick; a school comes with its check fitted, and says so by name', () => {
    const r = rank('i5-turbo', 'street')
    expect(r.ranked.filter((x) => x.yardstick).map((x) => x.key)).toEqual(['stock'])
    const can = r.ranked[at(r, 'vacuum-side-can')]!
    expect(can.name).toBe('Vacuum-side can, with check valve')
    expect(can.analysis.verdicts.some((v) => v.rule === 'can-sees-boost')).toBe(false)
    expect(validateBuild(JSON.parse(JSON.stringify(can.build))).ok).toBe(true)
  })
  test('what stands first has no stop open, and each row but the last says why it stands there', () => {
    for (const r of [rank('i5-turbo', 'street'), rank('v8-na', 'track')]) {
      expect(r.ranked[0]!.analysis.verdicts.filter((v) => v.severity === 'stop')).toEqual([])
      const totals = r.ranked.map((x) => x.measure.total)
      expect(totals).toEqual(totals.toSorted((a, b) => a - b))
      for (const x of r.ranked.slice(0, -1)) expect(x.because).not.toBe('')
    }
  })
  test('a single is told by the mean of the turn and by what it breathes back in', () => {
    const r = rank('single', 'track')
    const note = (key: string) => r.ranked[at(r, key)]!.notes.join(' ')
    expect(note('vented-return')).toMatch(/nothing breathed back in/)
    expect(note('vented-can')).toMatch(/\d l\/min breathed back in/)
    // the row's own range is the turn's: a one-way valve makes suction of the pumping, which still flow knows nothing of
    expect(r.ranked[at(r, 'vented-return')]!.highest!).toBeLessThan(-1000)
  })
  test('a tank vent needs a tank', () => {
    expect(at(rank('i5-turbo', 'track'), 'tank-vent')).toBe(-1)
    expect(at(rank('v8-dry', 'track'), 'tank-vent')).toBeGreaterThanOrEqual(0)
  })
})

describe('which of several plans to take', () => {
  const engine = newBuild({ name: 'T', engineClass: 'i5-turbo', use: 'street', ambientC: 15, units: 'metric' })
  const plans = (...keys: string[]): Build => ({
    ...engine,
    active: 'p0',
    variants: keys.map((k, i) => variantOf(schoolOf(k)!, engine.engine, `p${i}`)),
  })
  const says = (b: Build) => conclusion(b, finish(compare(b, DAY)))
  test('one sentence says which, why with both figures, and when another would win', () => {
    expect(says(plans('stock', 'both-sides', 'vented-can'))).toMatch(
      /^Take B, both sides, two cans: oil to the intake \d.*, against \d.* of A\. A, as the maker laid it, has this for it: /,
    )
    // where two weigh the same, each is told by what it has for it
    expect(says(plans('stock', 'both-sides-filler'))).toMatch(
      /^B and A are as good as each other; take either: oil to the intake .*\. A, as the maker laid it, has this for it: crankcase /,
    )
    expect(says(plans('stock'))).toBeUndefined()
  })
  test('on a car that is trailered the vented plan is the one', () => {
    const b = plans('two-outlets', 'vented-can')
    const hours = { street: 0, motorway: 0, mountain: 0, track: 10, drag: 0, towing: 0, shortCold: 0 }
    expect(says({ ...b, duty: { ...b.duty, hours } })).toMatch(/^Take B, vented can:/)
  })
  test('a plan that was changed bears its school’s name no more as if it were it, and is not "as approved"', () => {
    const b = plans('stock')
    const v = b.variants[0]!
    expect([planName(v, b.engine), legalNote(v, b.engine)]).toEqual(['As the maker laid it', 'As approved.'])
    const moved = { ...v, parts: v.parts.map((p) => ({ ...p, at: { x: 1, y: 2 } })) }
    expect(planName(moved, b.engine)).toBe('As the maker laid it')
    const changed = { ...v, lines: v.lines.map((l) => (l.id === 'breather' ? { ...l, boreMm: 12.7 } : l)) }
    expect(planName(changed, b.engine)).toBe('As the maker laid it, changed')
    expect(legalNote(changed, b.engine)).not.toMatch(/As approved/)
  })
})

test('the sheet for a spreadsheet has one figure a cell, plain numbers, and the unit in the head', () => {
  const b = several('both-sides')
  const compared = finish(compare(b, DAY))
  const [, ...rows] = comparisonCsv(b, compared)
  for (const [head, ...cells] of rows) {
    // words, not figures
    if (/^(Sealed|Its drain|What fails)/.test(head!)) continue
    for (const cell of cells) expect(cell).toMatch(/^(-?\d+(\.\d+)?(e-?\d+)?)?$/)
  }
  expect(rows.map((r) => r[0])).toContain('Crankcase, boost (kPa)')
  // a figure stands in its own row, empty for a plan that has none
  const cellsOf = (head: string) => rows.find((r) => r[0] === head)!.slice(1)
  const kPa = (pa: number | undefined) => (pa === undefined ? '' : String(Number((pa / 1000).toPrecision(5))))
  expect(cellsOf('Highest pressure at a can (kPa)')).toEqual(compared.map((c) => kPa(c.canHighest)))
  expect(compared.filter((c) => c.canHighest !== undefined).length).toBeGreaterThan(0)
})
