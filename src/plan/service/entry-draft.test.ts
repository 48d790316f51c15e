/** A log entry as it is typed: units, limits, what each kind asks for, and what is said at the field. */
import { LOG_FIELDS, READING_WAYS } from '../document/log-fields'
import { isSoundEntry } from '../document/sound-entry'
import { activeVariant } from '../edit/edit'
import { newBuild } from '../schools/new-build'
import { changedEntry, draftOf, logEntryOf, placesOf, type EntryDraft } from './entry-draft'

const build = newBuild({
  name: 'x',
  engineClass: 'i5-turbo',
  use: 'street',
  ambientC: 10,
  units: 'metric',
  school: 'vented-can',
})
const variant = activeVariant(build)
const can = variant.parts.find((p) => p.kind === 'can')!
const context = { variant, cans: [can.id], units: build.units, today: '2026-06-01', newId: () => 'e1' }
const draft: EntryDraft = {
  kind: 'emptied',
  date: '2026-05-30',
  part: undefined,
  seen: 'measured',
  looks: 'oil',
  level: 'full',
  reading: { state: 'idle', way: 'crankcase', at: undefined, side: 'vacuum' },
  typed: { odometerKm: '12 400', ml: '35' },
  note: ' clear ',
}
const made = (to: Partial<EntryDraft>, where: Partial<typeof context> = {}) => {
  const r = logEntryOf({ ...draft, ...to }, { ...context, ...where })
  if (r.problems) throw new Error(JSON.stringify(r.problems))
  expect(isSoundEntry(r.entry)).toBe(true)
  return r.entry
}
const wrong = (to: Partial<EntryDraft>, where: Partial<typeof context> = {}) =>
  logEntryOf({ ...draft, ...to }, { ...context, ...where }).problems
const reading = (to: Partial<EntryDraft['reading']>, typed: EntryDraft['typed']): Partial<EntryDraft> => ({
  kind: 'reading',
  reading: { ...draft.reading, ...to },
  typed: { odometerKm: '1', ...typed },
})

test('an emptying is kept in millilitres and kilometres, and names its can and plan', () => {
  expect(made({ typed: { odometerKm: '12400', ml: '35' } })).toEqual({
    id: 'e1',
    date: '2026-05-30',
    kind: 'emptied',
    odometerKm: 12_400,
    plan: variant.id,
    part: can.id,
    ml: 35,
    note: 'clear',
  })
  // 1 US fl oz = 29.5735 ml, 1 mile = 1.609344 km (NIST SP 811)
  const imperial = { ...build.units, system: 'imperial' } as const
  const e = made({ typed: { odometerKm: '100', ml: '2' } }, { units: imperial })
  expect(e.odometerKm).toBeCloseTo(160.9344, 6)
  expect(e.ml).toBeCloseTo(59.147, 3)
})

test('a mark on the can’s dipstick is what its bowl holds there', () => {
  const { ml } = made({ typed: { odometerKm: '1', ml: '25 mm' } })
  expect(ml).toBeCloseTo(can.kind === 'can' ? 2.5 * can.faceCm2 : 0, 1)
})

test('what is missing, out of range or impossible is said at its field, and nothing is made', () => {
  expect(wrong({ typed: {} })).toEqual({ odometerKm: 'Needed.', ml: 'Needed.' })
  expect(wrong({ typed: { odometerKm: `${LOG_FIELDS.odometerKm.max + 1}`, ml: '-1' } })).toMatchObject({
    odometerKm: expect.stringMatching(/^At most 2\D000\D000 km/),
    ml: expect.stringMatching(/^At least/),
  })
  expect(wrong({ typed: { odometerKm: '1', ml: '20', waterMl: '21' } })).toEqual({
    waterMl: 'More than all that came out.',
  })
  expect(wrong({ typed: { odometerKm: '1', ml: '20', sessions: '501' } })).toEqual({ sessions: 'At most 500.' })
  expect(wrong({ date: '2026-06-02' })).toEqual({ date: 'That day is still to come.' })
  expect(wrong({ date: '' })).toEqual({ date: 'Choose a day.' })
})

test('with two cans it is said each time which it was; with none there is none', () => {
  expect(wrong({}, { cans: ['a', 'b'] })).toEqual({ part: 'Say which can it was.' })
  expect(made({ part: 'b' }, { cans: ['a', 'b'] }).part).toBe('b')
  expect(wrong({}, { cans: [] })).toEqual({ part: 'There is no can in this circuit.' })
  expect(made({ kind: 'oil-added', typed: { odometerKm: '1', ml: '500' } }, { cans: [] }).part).toBeUndefined()
})

test('a can that ran over or was dry needs no volume', () => {
  expect(made({ seen: 'overflowed', typed: { odometerKm: '1' } })).toMatchObject({ seen: 'overflowed' })
  expect(made({ seen: 'dry', typed: { odometerKm: '1', ml: '9' } })).not.toHaveProperty('ml')
})

test('a crankcase is under vacuum or pressure by what is said, or by a sign that was typed', () => {
  const kpa = (to: Partial<EntryDraft['reading']>, text: string) => made(reading(to, { kpa: text })).reading!.kpa
  expect(kpa({ side: 'vacuum' }, '0.5')).toBe(-0.5)
  expect(kpa({ side: 'vacuum' }, '-0.5')).toBe(-0.5)
  expect(kpa({ side: 'pressure' }, '0.5')).toBe(0.5)
  expect(kpa({ side: 'pressure' }, '-0.5')).toBe(-0.5)
})

test.each(Object.keys(READING_WAYS) as (keyof typeof READING_WAYS)[])(
  '%s asks for its figures and its place',
  (way) => {
    const places = placesOf(variant, way)
    expect(wrong(reading({ way }, {}))).toEqual({
      ...Object.fromEntries(Object.keys(READING_WAYS[way].figures).map((key) => [key, 'Needed.'])),
      ...(places.length > 0 ? { at: 'Say where.' } : {}),
    })
    const typed = Object.fromEntries(Object.keys(READING_WAYS[way].figures).map((key) => [key, '5']))
    expect(made(reading({ way, at: places[0]?.id }, typed)).reading).toMatchObject({ state: 'idle' })
  },
)

describe('an entry put right', () => {
  const entries = [
    made({ typed: { odometerKm: '61237.4', ml: '35.5', waterMl: '3', sessions: '2' }, looks: 'milky' }),
    made({ seen: 'overflowed', typed: { odometerKm: '1' } }),
    made({ seen: 'dry', typed: { odometerKm: '1' } }),
    made({ kind: 'oil-added', typed: { odometerKm: '1', ml: '500' } }),
    made({ kind: 'level', level: 'low', typed: { odometerKm: '1' } }),
    ...(Object.keys(READING_WAYS) as (keyof typeof READING_WAYS)[]).map((way) =>
      made(
        reading(
          { way, at: placesOf(variant, way)[0]?.id, state: 'pull' },
          Object.fromEntries(Object.keys(READING_WAYS[way].figures).map((key) => [key, '5.25'])),
        ),
      ),
    ),
  ]
  test.each(entries.map((e) => [e.kind, e] as const))(
    '%s: typed again untouched it is the same, in any units',
    (_, e) => {
      for (const system of ['metric', 'imperial'] as const) {
        const units = { ...build.units, system, pressure: system === 'metric' ? 'kPa' : 'inHg' } as const
        expect(changedEntry(e, draftOf(e, units), { ...context, units })).toEqual({ entry: e })
      }
    },
  )
  test('what is changed is changed, and nothing else', () => {
    const [first] = entries
    const now = { ...draftOf(first!, build.units), part: 'other', date: '2026-05-01' }
    const changed = { ...now, typed: { ...now.typed, ml: '40' } }
    expect(changedEntry(first!, changed, { ...context, cans: [can.id, 'other'] })).toEqual({
      entry: { ...first, ml: 40, part: 'other', date: '2026-05-01' },
    })
  })
  test('a leak test is about no can, and may stay so', () => {
    const { part: _, ...leak } = made({ kind: 'checked', typed: { odometerKm: '1' } })
    expect(changedEntry(leak, draftOf(leak, build.units), { ...context, withoutCan: true })).toEqual({ entry: leak })
  })
})
