import { compare, comparisonSheet } from './compare'
import { faultsOf, withFault } from '../faults/faults'
import { differences } from './differences'
import type { Build } from '../document/schema'
import { finish } from '@/core/job'
import { newBuild } from '../schools/new-build'
import { changedVerdicts } from '../verdicts/outcome'
import { SEVERITIES } from '../verdicts/verdict'
import { rankSchools } from '../schools/rank'
import { schoolOf, variantOf } from '../schools/schools'
import { failures } from '../faults/what-if'
import { setField } from '../edit/deeds'
import { after, badNumbers } from '../testing'
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
    const v = { severity: 'stop', rule: 'x', subject: 'a', title: '', why: '', at: { station: 'circuit' } } as const
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

test('the schools are ranked by what they do: the road wants it sealed, the track does not mind', () => {
  const street = rankSchools(base, DAY)
  expect(street[0]!.school.sealed).toBe(true)
  expect(street.findIndex((r) => r.school.key === 'vented-can')).toBeGreaterThan(street.length / 2)
  const track = rankSchools(
    newBuild({ name: 'T', engineClass: 'v8-na', use: 'track', ambientC: 20, units: 'metric' }),
    DAY,
  )
  expect(track.every((r) => Number.isFinite(r.score))).toBe(true)
  // a tank vent needs a tank
  expect(street.some((r) => r.school.key === 'tank-vent')).toBe(false)
  const dry = after(base, setField(['engine', 'sump'], 'dry'))
  expect(rankSchools(dry, DAY).some((r) => r.school.key === 'tank-vent')).toBe(true)
})
