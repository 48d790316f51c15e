/** Tables of sizes hang together: what a builder adds to one is found in the others. */
import { threadOf } from '@/core/sizes/threads'
import { bendRadius } from './bay-geometry'
import tables from './fittings.json'
import { BARBS, DASHES, FORM_KEYS, formOf, METRICS, PIPES, QUICKS } from './forms'

test('every table says what it holds and where that comes from', () => {
  for (const [name, table] of Object.entries(tables)) {
    if (typeof table === 'string') continue
    expect(`${name}: ${table.about.length > 20 && table.source.length > 10}`).toBe(`${name}: true`)
    expect(table.rows.length).toBeGreaterThan(4)
  }
})

test('every size has its thread, every adapter a dash or barb that is made, every form is one', () => {
  const sizes = [
    ...DASHES.map((d) => threadOf('37 degree flare', `-${d.dash}`)),
    ...PIPES.map((p) => threadOf('pipe', p.size)),
    ...METRICS.map((m) => threadOf('metric', m.size)),
  ]
  expect(sizes.filter((t) => !t.ok)).toEqual([])
  const dashes = DASHES.map((d) => d.dash)
  for (const made of [...PIPES, ...METRICS]) {
    expect(dashes).toEqual(expect.arrayContaining(made.dashes))
    expect(BARBS).toEqual(expect.arrayContaining(made.barbs))
  }
  expect(BARBS).toEqual(expect.arrayContaining(QUICKS.map((q) => q.barbMm)))
  expect(FORM_KEYS.filter((key) => formOf(key) === undefined)).toEqual([])
})

test('least bend radii by dash: SAE 100R5, from memory', () => {
  const radii = DASHES.slice(0, 6).map((d) => Math.round(1000 * bendRadius(d.hoseMm / 1000)))
  expect(radii).toEqual([76, 102, 117, 140, 165, 187])
})

test('sizes rise from row to row, so that the least that fits is the first found', () => {
  const rising = (of: readonly number[]) => of.every((v, i) => i === 0 || v > of[i - 1]!)
  const columns = [BARBS, DASHES.map((d) => d.hoseMm), PIPES.map((p) => p.mm), tables.hoses.rows.map((h) => h.mm)]
  columns.push(tables.bends.rows.map((b) => b.boreMm))
  expect(columns.map(rising)).toEqual(columns.map(() => true))
})
