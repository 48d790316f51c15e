/** Parts and Fit: every plan has a whole list and a card that tells of it alone; ends by rules of the trade. */
import { ENGINE_CLASSES } from '../catalogue/engines'
import { bayFor, readyBay } from '../catalogue/bays'
import { dashOf, FORM_KEYS, formOf } from '../catalogue/forms'
import { PIECES } from '../catalogue/pieces'
import { setBay, setPointing, setSpot, setWay } from '../bay/bay-builders'
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { unitFormatter } from '../document/words'
import { setLine } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { after, inReadyBay, withoutRegulator } from '../testing'
import { jobCard, tickOf } from './card'
import { noteForm, noteStock, tickStep } from './fit-builders'
import { closuresOf } from './closures'
import { chainsTo, hoseSold, onBarb, type HoseSold } from './ends'
import { couplingsOf } from './couplings'
import { clampFor, cutList, drillings, shoppingList, spanners } from './lists'
import { compareWithStock } from './stock'
import { spannerRooms } from './spanner-room'
import { stripsOf } from './strips'

type Class = (typeof ENGINE_CLASSES)[number]['key']
const build = (school: string, engineClass: Class = 'i5-turbo'): Build =>
  inReadyBay({ engineClass, use: 'street', school })
const plan = (b: Build) => activeVariant(b)
const RUBBER = (mm: number): HoseSold => ({ kind: 'rubber', mm, name: `${mm}`, dash: undefined })
const BRAIDED = (dash: number, mm: number): HoseSold => ({ kind: 'braided', mm, name: `-${dash}`, dash })

describe.each(ENGINE_CLASSES.map((c) => c.key))('%s', (engineClass) => {
  test('every school: no end is left open, the list is whole, the card speaks of nothing that is not there', () => {
    for (const s of SCHOOLS) {
      const b = build(s.key, engineClass)
      const v = plan(b)
      const names = [...v.parts.map((p) => p.id), ...compareWithStock(b, v).takenOff.map((p) => p.id)]
      const strips = stripsOf(b, v)
      expect(
        strips.filter((x) => !x.kept && (x.hose?.ok !== true || x.ends.some((e) => !e.chain.ok))).map((x) => x.line.id),
      ).toEqual([])
      const items = shoppingList(b, v)
      expect(items.filter((i) => !(i.count > 0) || !Number.isInteger(i.count))).toEqual([])
      expect(new Set(items.map((i) => i.key)).size).toBe(items.length)
      // no two things under one name, and nothing that is only called by its name
      expect([s.key, items.map((i) => i.name).filter((n, k, all) => all.indexOf(n) !== k)]).toEqual([s.key, []])
      expect(items.filter((i) => i.group === 'Cans and valves' && i.asks.length === 0).map((i) => i.name)).toEqual([])
      // every end has its piece, but where it stands in the open air; what is bought passes what is assumed
      for (const x of strips.filter((y) => !y.kept)) {
        for (const e of x.ends)
          expect([x.line.id, e.chain.ok && e.chain.value.hoseEnd.kind === 'as it is' ? e.form : 'open']).toEqual([
            x.line.id,
            'open',
          ])
        if (x.hose?.ok) expect([x.line.id, x.hose.value.mm >= x.line.boreMm - 0.8]).toEqual([x.line.id, true])
      }
      // bodies mouth to mouth: each with what joins it
      for (const j of couplingsOf(b, v)) {
        for (const e of j.ends) if (e.chain) expect([j.line.id, e.chain.ok]).toEqual([j.line.id, true])
        expect([j.line.id, items.some((i) => i.for.includes(j.line.name)) || j.kind === 'mouth']).toEqual([
          j.line.id,
          true,
        ])
      }
      // every hose that is cut is bought, and enough of it
      const made = strips.filter((x) => !x.kept)
      const metres = made.reduce((sum, x) => sum + x.cutM, 0)
      expect(items.filter((i) => i.unit === 'mm').reduce((sum, i) => sum + i.count, 0) / 1000).toBeGreaterThanOrEqual(
        metres,
      )
      expect(cutList(strips).length).toBe(made.length)
      const card = jobCard(b, v)
      expect(new Set(card.steps.map((x) => x.key)).size).toBe(card.steps.length)
      for (const step of card.steps) {
        if (step.part !== undefined) expect(names).toContain(step.part)
        if (step.line !== undefined) expect([...made, ...couplingsOf(b, v)].map((x) => x.line.id)).toContain(step.line)
        expect(step.says).not.toMatch(/NaN|undefined|Infinity|not resolved/)
      }
      // what can hurt is said where it is done, and nowhere else
      const warns = (word: RegExp) => card.cautions.some((c) => word.test(c))
      expect([s.key, warns(/goggles/)]).toEqual([s.key, drillings(strips, unitFormatter(b.units)).length > 0])
      expect([s.key, warns(/never on the jack/)]).toEqual([s.key, made.some((x) => x.line.kind === 'drain')])
      expect([s.key, warns(/folds/)]).toEqual([s.key, made.some((x) => x.ends.some((e) => e.part.kind === 'manifold'))])
      // every line that is made is mocked up, cut and put on at both ends
      for (const x of made)
        expect(card.steps.filter((step) => step.line === x.line.id).length).toBeGreaterThanOrEqual(4)
    }
  })
})

test('forms and pieces: every piece fits a form that is known and offers another, none narrows to nothing', () => {
  for (const p of PIECES) {
    expect(formOf(p.from)).toBeDefined()
    expect(formOf(p.to)).toBeDefined()
    expect(p.from).not.toBe(p.to)
    expect(p.boreMm).toBeGreaterThan(1)
    // common practice, no source: tape on taper threads alone, never on a cone or with an O-ring
    expect(p.sealing === 'tape').toBe(p.from.startsWith('pipe-'))
    if (p.sealing === 'O-ring') expect(p.seal).toBeDefined()
  }
  expect(FORM_KEYS.filter((k) => !formOf(k))).toEqual([])
  for (const bad of ['', 'barb-', 'barb-x', 'flare-9', 'pipe-2/3', 'toString-1', 'metric-M9'])
    expect(formOf(bad)).toBeUndefined()
})

test('chains: the fewest joints first; a hose on its own barb needs no piece; what nothing leads to is refused with the reason', () => {
  const own = chainsTo('barb-19', RUBBER(19))
  expect(own.ok && own.value[0]).toMatchObject({ pieces: [], joints: 1, hoseEnd: { kind: 'clamp', barbMm: 19 } })
  const boss = chainsTo('boss-10', BRAIDED(10, 14.3))
  expect(boss.ok && boss.value[0]!.pieces.map((p) => p.to)).toEqual(['flare-10'])
  const stock = chainsTo('barb-15.9', BRAIDED(10, 14.3))
  expect(stock.ok && stock.value[0]!.pieces.map((p) => p.sealing)).toEqual(['clamp'])
  const stepped = chainsTo('barb-12.7', RUBBER(15.9))
  expect(stepped.ok && stepped.value[0]!.joints).toBe(3)
  for (const list of [own, boss, stock, stepped])
    if (list.ok) list.value.forEach((c, i) => expect(i === 0 || c.joints >= list.value[i - 1]!.joints).toBe(true))
  const none = chainsTo('pipe-1/8', RUBBER(32))
  expect(none.ok ? '' : none.reason).toMatch(/Nothing in the tables leads/)
  expect(chainsTo('nonsense', RUBBER(19)).ok).toBe(false)
})

test('hose on barb: looser is a fault even with a clamp, stretch to 5 % for rubber and 10 % for silicone', () => {
  expect(onBarb(19, 19).ok).toBe(true)
  expect(onBarb(19, 15.9).ok).toBe(false)
  expect(onBarb(19, 20.5).ok).toBe(false)
  expect(onBarb(19, 20.5, 'silicone').ok).toBe(true)
  expect(hoseSold(14.3)).toMatchObject({ ok: true, value: { kind: 'braided', dash: 10 } })
  expect(hoseSold(45).ok).toBe(false)
})

test('a port that was looked at changes the chain, what is bought and the bore; unlooked it is as usual', () => {
  const b = build('both-sides')
  const at = (x: Build) => stripsOf(x, plan(x)).find((s) => s.line.id === 'breather')!.ends[0]
  expect(at(b)).toMatchObject({ form: 'barb-19', looked: false })
  const quick = after(b, noteForm('cover.breather', 'quick-19.05'))
  expect(at(quick)).toMatchObject({ form: 'quick-19.05', looked: true })
  expect(shoppingList(quick, plan(quick)).some((i) => i.name.startsWith('quick connector'))).toBe(true)
  expect(shoppingList(b, plan(b)).some((i) => i.name.startsWith('quick connector'))).toBe(false)
  const v = validateBuild(JSON.parse(JSON.stringify(quick)))
  expect(v.ok ? [] : v.problems).toEqual([])
  expect(at(after(quick, noteForm('cover.breather', undefined))).looked).toBe(false)
  // what is no hose end is not cut off
  expect(jobCard(quick, plan(quick)).steps.find((s) => s.key === 'off-breather')?.says).not.toMatch(/^Cut/)
})

test('cut length: path, slack to the body, over the barbs; by the bay to the millimetre', () => {
  const b = build('breather-side-can')
  const s = stripsOf(b, plan(b)).find((x) => x.line.id === 'breather')!
  expect(s.lay).toBeDefined()
  expect(s.cutM).toBeCloseTo(Math.ceil((s.pathM + 0.025 + 2 * 0.022) / 0.005) * 0.005, 9)
  // the clamp goes round the outside: 19 mm bore and its walls
  expect(clampFor(19)).toEqual([20, 32])
})

test('what the maker gave is kept, what is left open is capped', () => {
  const stock = build('stock')
  expect(stripsOf(stock, plan(stock)).every((s) => s.kept)).toBe(true)
  expect(shoppingList(stock, plan(stock))).toEqual([])
  expect(cutList(stripsOf(stock, plan(stock)))).toEqual([])
  const vented = build('vented-can')
  const off = compareWithStock(vented, plan(vented))
  expect(off.open.length).toBeGreaterThan(0)
  for (const o of off.open)
    expect(
      jobCard(vented, plan(vented)).steps.some((s) => s.says.startsWith('Close the') && s.part === o.part.id),
    ).toBe(true)
  expect(spanners(stripsOf(stock, plan(stock)))).toEqual([])
})

test('the maker’s moulded hose may be cut and kept: a joiner goes into it, and the card says cut, not take off', () => {
  const b = build('breather-side-can')
  const line = plan(b).lines.find((l) => l.id === 'breather')!
  const cut = after(b, noteForm(`${line.from.part}.${line.from.port}`, 'stub-19'))
  const strip = stripsOf(cut, plan(cut)).find((s) => s.line.id === 'breather')!
  const chain = strip.ends[0].chain
  if (!chain.ok) throw new Error(chain.reason)
  expect(chain.value.pieces.map((p) => p.name)).toEqual(['straight joiner, 3/4 in (19 mm)'])
  // both clamps of the joiner can leak
  expect(chain.value.joints).toBe(2)
  expect(shoppingList(cut, plan(cut)).some((i) => i.name.startsWith('straight joiner'))).toBe(true)
  const says = (x: Build) => jobCard(x, plan(x)).steps.find((s) => s.key === 'off-breather')?.says
  expect(says(b)).toMatch(/^Take the maker’s breather line off/)
  expect(says(cut)).toMatch(/^Cut the maker’s breather line square a hand’s width from the cam cover, breather nipple/)
  // a screwed hose starts from the same cut end by an adapter
  const screwed = chainsTo('stub-15.9', BRAIDED(10, 14.3))
  if (!screwed.ok) throw new Error(screwed.reason)
  expect(screwed.value[0]).toMatchObject({
    joints: 2,
    pieces: [{ name: 'adapter, 5/8 in (15.9 mm) barb to -10 flare' }],
  })
})

test.each([
  ['seat', /^expansion plug/],
  ['pipe-3/8', /^3\/8 pipe plug$/],
  ['boss-10', /^-10 O-ring boss plug$/],
  ['metric-M16x1.5', /^M16x1.5 plug with O-ring$/],
  ['quick-9.49', /^cap for a 9.49 mm quick connector tube$/],
  ['flare-8', /^-8 flare cap$/],
  ['barb-12.7', /^cap with clamp for a nipple of 11.1 mm$/],
] as const)('a port of form %s that a plan leaves is closed by what goes on it', (form, what) => {
  const b = after(build('tank-vent', 'i4-na'), noteForm('manifold.vacuum', form))
  const closed = closuresOf(b, plan(b)).find((c) => c.part.id === 'manifold')!
  expect(closed.what).toMatch(what)
  const item = shoppingList(b, plan(b)).find((i) => i.name === closed.what)!
  expect(item.group).toBe('Caps and plugs')
  // what lies in the drawer can be noted and kept
  const kept = validateBuild(JSON.parse(JSON.stringify(after(b, noteStock(item.key, { have: 1 })))))
  expect(kept.ok ? [] : kept.problems).toEqual([])
  expect(jobCard(b, plan(b)).steps.map((s) => s.says)).toContain(closed.says)
})

test('ticks hold while the step says the same, and say what they said when it does not', () => {
  const b = build('both-sides')
  const step = jobCard(b, plan(b)).steps.find((s) => s.key === 'breather-cut')!
  const ticked = after(b, tickStep(plan(b).id, step, '2026-11-25T10:00:00Z', 240))
  expect(tickOf(ticked, plan(b).id, step)).toMatchObject({ state: 'done', seconds: 240 })
  const longer = after({ ...ticked, bay: undefined }, setLine('breather', { lengthMm: 900 }))
  const now = jobCard(longer, plan(longer)).steps.find((s) => s.key === 'breather-cut')!
  expect(tickOf(longer, plan(b).id, now)).toMatchObject({ state: 'changed', said: step.says })
  expect(tickOf(after(ticked, tickStep(plan(b).id, step, undefined)), plan(b).id, step)).toBeUndefined()
  const stocked = after(ticked, noteStock('ptfe-tape', { have: 1 }), noteStock('ptfe-tape', { price: 2.5 }))
  expect(stocked.fit!.stock).toEqual([{ id: 'ptfe-tape', have: 1, price: 2.5 }])
  const v = validateBuild(JSON.parse(JSON.stringify(stocked)))
  expect(v.ok ? [] : v.problems).toEqual([])
})

test('a braided hose with both ends bent is assembled with them turned to each other as they lie', () => {
  const b = after(
    build('stock'),
    setLine('breather', { boreMm: 14.3 }),
    noteForm('cover.breather', 'flare-10'),
    noteForm('inlet.breather', 'flare-10'),
    setWay('breather', []),
    setSpot('cover.breather', { forwardMm: 0, leftMm: 0, upMm: 0 }),
    setSpot('inlet.breather', { forwardMm: 500, leftMm: 0, upMm: 0 }),
    setPointing('cover.breather', { points: 'up' }),
    setPointing('inlet.breather', { points: 'left' }),
  )
  const assemble = (x: Build) => jobCard(x, plan(x)).steps.find((s) => s.key === 'breather-assemble')
  // up and to the left: their planes stand at right angles
  expect(assemble(b)).toMatchObject({ drawing: 'clocking', clockingDeg: 90 })
  const straight = assemble(after(b, setPointing('inlet.breather', { points: 'back' })))
  expect(straight).toMatchObject({ drawing: 'socket' })
  expect(straight!.clockingDeg).toBeUndefined()
})

test('the nut of an aluminium flare has its torque, in the builder’s unit', () => {
  // FAA AC 43.13-1B, flared connections, aluminium: -10 200 to 350 in-lb (from memory)
  const { leastNm, mostNm } = dashOf(10)!
  expect([leastNm, mostNm].map((t) => Math.round(t / 0.112985))).toEqual([200, 350])
})

test('a fitting too near to something for its spanner is told, by the distance to it', () => {
  const b = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 10,
    units: 'metric',
    school: 'separator-return',
  })
  const bayed = after(b, setBay(readyBay(b, activeVariant(b), bayFor(b.engine))))
  const rooms = (x: Build) => spannerRooms(x, activeVariant(x), stripsOf(x, activeVariant(x)))
  const [first] = rooms(bayed)
  expect(first!.hexMm).toBeGreaterThan(10)
  // a hexagon's corners stand 2/sqrt(3) over its flats, and the spanner has a wall (by hand)
  expect(first!.askedM).toBeCloseTo((first!.hexMm * 1.1547) / 2000 + 0.012, 5)
  // the crankcase's return is screwed; a wall 60 mm ahead of it, 50 mm thick to either side
  const spot = bayed.bay!.spots.find((s) => s.id.startsWith('crankcase.'))!
  const wall = { ...bayed.bay!.keepOuts[0]!, id: 'wall', name: 'Wall', round: undefined, lies: undefined }
  const beside = {
    ...wall,
    forwardMm: spot.forwardMm + 60,
    leftMm: spot.leftMm,
    upMm: spot.upMm,
    longMm: 100,
    wideMm: 100,
    highMm: 100,
  }
  const walled = rooms(after(bayed, setBay({ ...bayed.bay!, keepOuts: [beside] })))
  expect(walled.find((r) => r.to === 'wall' && Math.abs(r.freeM - 0.01) < 1e-9)).toBeDefined()
  expect(rooms(b)).toEqual([])
})

test('a part is asked for by its figures: what a check passes is a sharp hole in air, what a can stands is what the states say', () => {
  const b = build('both-sides')
  const items = shoppingList(b, plan(b), figuresOf(b).states)
  const can = items.find((i) => i.for.includes('Catch can'))!
  expect(can.name).toBe('baffled can, 350 ml')
  expect(can.asks[0]).toBe('in and out -8 O-ring boss')
  const highest = Math.max(
    ...figuresOf(b).states.flatMap((x) => (x.solved ? [x.gauge['can.in']!, x.gauge['can.out']!] : [])),
  )
  expect(can.asks.at(-1)).toContain(`to +${Math.round(highest / 1e4) * 10} kPa`)
  // Q = Cd A sqrt(2 dp / rho), 12 mm, 1 kPa, air of 20 C at 101.325 kPa (1.204 kg/m3): 0.62 · 113.1 mm2 · 40.8 m/s
  const gone = withoutRegulator()
  const list = shoppingList(gone, plan(gone))
  const check = list.find((i) => i.name.startsWith('check valve'))!
  const lpm = 0.62 * (Math.PI / 4) * 0.012 ** 2 * Math.sqrt((2 * 1000) / 1.204) * 60_000
  expect(check.asks.join()).toContain(`passes ${Math.round(lpm)} l/min at 1.0 kPa`)
  // the deleted unit's ports are closed in their size, and the tee is bought though the maker's circuit has one too
  expect(list.find((i) => i.group === 'Caps and plugs')!.name).toMatch(/22\.2 mm/)
  expect(list.some((i) => i.name.startsWith('tee'))).toBe(true)
})

test('rings and grommets are bought with one to spare for each that is fitted; a bung is bought where the cover has no nipple', () => {
  const b = build('both-sides')
  const rings = shoppingList(b, plan(b)).filter((i) => i.group === 'Seals' && i.name.includes('boss'))
  expect(rings.map((i) => [i.count, i.spare])).toEqual([
    [4, 2],
    [4, 2],
  ])
  const welded = build('vented-can', 'i6-strong')
  const bungs = shoppingList(welded, plan(welded)).filter((i) => i.name.startsWith('weld bung'))
  const ends = stripsOf(welded, plan(welded)).flatMap((x) =>
    x.ends.filter(
      (e) =>
        e.part.kind === 'cover' &&
        /^(flare|barb)/.test(e.form) &&
        e.part.ports.find((p) => p.id === e.end.port)!.lossKpaAt100 !== undefined,
    ),
  )
  expect(ends.length).toBeGreaterThan(0)
  expect(bungs.reduce((n, i) => n + i.count, 0)).toBe(ends.length)
})
