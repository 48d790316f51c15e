/** Ready bays as they open, sampled densely with geometry of its own: nothing passes through anything, no can hangs on nothing. */
import { finish } from '@/core/job'
import type { Point3 } from '@/core/drain/profile'
import { BAY_LAYOUTS } from '../catalogue/bay-layouts'
import { bayFor } from '../catalogue/bays'
import { ENGINE_CLASSES } from '../catalogue/engines'
import { MOUNT_FACTS } from '../catalogue/mounts'
import type { Bay, Build, Line } from '../document/schema'
import { activeVariant } from '../edit/edit'
import { figuresOf } from '../model/figures'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { after } from '../testing'
import { bestSpots } from './best-spots'
import { setWay } from './bay-builders'
import { findLineWay } from './find-way'
import { layOf } from './lay'
import { leadLines } from './lead-lines'
import { openBay, type OpenedBay } from './open-bay'

/** Every so many of all plans is opened in the suite; all of them take four minutes. */
const EVERY = 17

type Box = Bay['keepOuts'][number]
/** Distance of a point to a body in mm, worked out here: boxes, upright and lying cylinders. */
function away([x, y, z]: Point3, k: Box): number {
  const [dx, dy, dz] = [Math.abs(x * 1000 - k.forwardMm), Math.abs(y * 1000 - k.leftMm), Math.abs(z * 1000 - k.upMm)]
  const past = (d: number, half: number) => Math.max(0, d - half)
  if (!k.round) return Math.hypot(past(dx, k.longMm / 2), past(dy, k.wideMm / 2), past(dz, k.highMm / 2))
  if (k.lies === 'ahead') return Math.hypot(past(Math.hypot(dy, dz), k.highMm / 2), past(dx, k.longMm / 2))
  if (k.lies === 'left') return Math.hypot(past(Math.hypot(dx, dz), k.highMm / 2), past(dy, k.wideMm / 2))
  return Math.hypot(past(Math.hypot(dx, dy), k.longMm / 2), past(dz, k.highMm / 2))
}
/** Least that a hose or can keeps from a body of its kind, mm (estimates). */
const asked = (k: Box): number =>
  k.kind === 'hot'
    ? (k.surfaceC ?? 500) > 300
      ? 60
      : 30
    : { moving: 25, steering: 25, sharp: 10, electrical: 15, fuel: 20, brake: 20, service: 5, panel: 8, engine: 5 }[
        k.kind
      ]

/** Points every 2 mm along a polyline. */
function dense(points: readonly Point3[]): Point3[] {
  return points.slice(1).flatMap((q, i) => {
    const p = points[i]!
    const n = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]) / 0.002))
    return Array.from({ length: n + 1 }, (_, k): Point3 => {
      const t = k / n
      return [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t]
    })
  })
}

/** What the hoses of a build come nearer to than is asked, mm; near an end that sits on a body, that body does not count. */
function nearMisses(b: Build): string[] {
  const v = activeVariant(b)
  return v.lines.flatMap((l): string[] => {
    const lay = l.kind === 'direct' ? undefined : layOf(b.bay, v, l)
    if (!lay?.ok) return []
    const { middle } = lay.value
    const ends = [middle[0]!, middle.at(-1)!]
    const half = l.boreMm / 2 + 3.5
    return b.bay!.keepOuts.flatMap((k) => {
      const onIt = ends.filter((e) => away(e, k) < 45)
      const least = Math.min(
        ...dense(middle).flatMap((p) =>
          onIt.some((e) => Math.hypot(p[0] - e[0], p[1] - e[1], p[2] - e[2]) < 0.045) ? [] : [away(p, k) - half],
        ),
      )
      return least < asked(k) - 0.5 ? [`${l.name} ${Math.round(least)} mm from ${k.name}, ${asked(k)} asked`] : []
    })
  })
}

const opened = (engineClass: string, school: string, key?: string): OpenedBay => {
  const b = newBuild({ name: 'x', engineClass, use: 'street', ambientC: 10, units: 'metric', school } as never)
  return finish(openBay(b, figuresOf(b).states, key ?? bayFor(b.engine)))
}

const all = ENGINE_CLASSES.flatMap((e) => SCHOOLS.map((s) => [e.key, s.key] as const))
test.each(all.filter((_, i) => i % EVERY === 3))('%s, %s opens with nothing through anything', (engine, school) => {
  const { build, stuck, unplaced } = opened(engine, school)
  // what found no way is told, and is then not judged here
  const named = new Set(stuck.map((s) => s.line.name))
  expect(unplaced).toEqual([])
  expect(nearMisses(build).filter((m) => ![...named].some((name) => m.startsWith(name)))).toEqual([])
  expect(stuck.map((s) => s.reason)).toEqual([])
})

test.each(BAY_LAYOUTS.map((l) => l.key))('%s: each can hangs within reach of what carries it full of oil', (key) => {
  const { build } = opened('v8-na', 'both-sides', key)
  for (const can of activeVariant(build).parts) {
    if (can.kind !== 'can') continue
    const spot = build.bay!.spots.find((s) => s.id === can.id)!
    // area of the bowl's floor, and what is above it: a handbook cylinder
    const high = (can.bowlMl / can.faceCm2) * 10 + 60
    const near = build.bay!.mounts!.filter(
      (m) => Math.hypot(m.forwardMm - spot.forwardMm, m.leftMm - spot.leftMm, m.upMm - spot.upMm - 0.7 * high) <= 351,
    )
    const oilKg = can.bowlMl * 1e-6 * 850
    expect(near.reduce((sum, m) => sum + MOUNT_FACTS[m.kind].carriesKg, 0)).toBeGreaterThan(oilKg + 0.5)
  }
})

test('after best spot and find a way nothing is nearer than it may be, and the cut list has the length along the middle', () => {
  const { build } = opened('v8-na', 'separator-return')
  const spots = finish(bestSpots(build, figuresOf(build).states, 'separator'))
  if (!spots.ok) throw new Error(spots.reason)
  for (const s of spots.value) {
    if (s.led.stuck.length > 0) continue
    expect(nearMisses(s.led.build)).toEqual([])
  }
  let there = spots.value[0]!.led.build
  for (const l of activeVariant(there).lines) {
    if (l.kind === 'direct') continue
    const way = finish(findLineWay(there, l.id))
    if (!way.ok) throw new Error(`${l.name}: ${way.reason}`)
    there = after(there, setWay(l.id, way.value))
  }
  expect(nearMisses(there)).toEqual([])
  // length of the middle by its own points: an arc of chords is a little short of it
  const v = activeVariant(there)
  for (const l of v.lines.filter((x: Line) => x.kind !== 'direct')) {
    const lay = layOf(there.bay, v, l)
    if (!lay.ok) throw new Error(lay.reason)
    const chords = lay.value.middle
      .slice(1)
      .reduce((sum, p, i) => sum + Math.hypot(...p.map((x, k) => x - lay.value.middle[i]![k]!)), 0)
    const arcs = l.bends.reduce((sum, x) => sum + (x.angleDeg * Math.PI * x.radiusMm) / 180, 0)
    expect((l.lengthMm + arcs) / 1000).toBeCloseTo(chords, 2)
  }
})

test('led for nothing: with one hose stuck that may not be, what would come after it is left', () => {
  const { build } = opened('i5-turbo', 'both-sides')
  // a wall right across: hoses from one side to the other find no way
  const wall = { ...build.bay!.keepOuts[0]!, id: 'wall', name: 'Wall', kind: 'panel', round: undefined } as const
  const across = { ...wall, forwardMm: 400, leftMm: -450, upMm: 0, longMm: 4000, wideMm: 20, highMm: 2000 }
  const walled = { ...build, bay: { ...build.bay!, bonnet: [], keepOuts: [across] } }
  const hoses = new Set(activeVariant(build).lines.flatMap((l) => (l.kind === 'direct' ? [] : [l.id])))
  const whole = finish(leadLines(walled, hoses))
  expect(whole.stuck.length).toBeGreaterThan(1)
  expect(finish(leadLines(walled, hoses, whole.stuck.length)).stuck).toEqual(whole.stuck)
  const given = finish(leadLines(walled, hoses, 0))
  expect(given.stuck).toHaveLength(1)
})

test('a hostile bay is answered in words: what is in the way, and the least that would have to move', () => {
  const { build } = opened('i5-turbo', 'vacuum-side-can')
  const low = { ...build, bay: { ...build.bay!, bonnet: build.bay!.bonnet.map((p) => ({ ...p, upMm: -560 })) } }
  const spots = finish(bestSpots(low, figuresOf(low).states, 'can'))
  expect(spots.ok ? '' : spots.reason).toMatch(/no free place.*\d+ mm lower under the bonnet/)
  const bare = { ...build, bay: { ...build.bay!, mounts: [] } }
  const hung = finish(bestSpots(bare, figuresOf(bare).states, 'can'))
  expect(hung.ok ? '' : hung.reason).toMatch(/Nothing is entered that the catch can could hang on/)
  // a wall right across between the ends
  const wall = { ...build.bay!.keepOuts[0]!, id: 'wall', name: 'Wall', kind: 'panel', round: undefined } as const
  const at = activeVariant(build).lines.find((l) => l.id === 'breather')!
  const walled = {
    ...build,
    bay: {
      ...build.bay!,
      bonnet: [],
      keepOuts: [{ ...wall, forwardMm: 400, leftMm: -450, upMm: 0, longMm: 4000, wideMm: 20, highMm: 2000 }],
    },
  }
  const way = finish(findLineWay(walled, at.id))
  expect(way.ok ? '' : way.reason).toMatch(/Wall/)
})
