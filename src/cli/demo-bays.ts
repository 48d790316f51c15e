/** ./ivent docs bays: the bays of the demo builds, laid out as the bay station opens them, into src/server/demo-bays.json. */
import { writeFileSync } from 'node:fs'
import { finish } from '@/core/job'
import type { Led } from '@/plan/bay/lead-lines'
import { putAt, spotsFor } from '@/plan/bay/best-spots'
import { drainInBay } from '@/plan/bay/drains'
import { openBay } from '@/plan/bay/open-bay'
import { bayFor } from '@/plan/catalogue/bays'
import type { Build } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { figuresOf } from '@/plan/model/figures'
import type { StateResult } from '@/plan/model/results'
import type { DemoBay } from '@/server/demo-bays'
import { DEMOS } from '@/server/demo-builds'

/** A demo whose separator hangs too low, which is its story: what suction holds up in boost lacks that much to come down, m. */
const TOO_LOW: Readonly<Record<string, readonly [least: number, most: number] | undefined>> = { Godwit: [0.015, 0.08] }

/** The separator where it drains in most states, but not in all. */
function tooLow(opened: Led, states: readonly StateResult[], [least, most]: readonly [number, number]): Led {
  const spots = finish(spotsFor(opened.build, states, 'separator', { most: 40, drained: false }))
  for (const { floor } of spots.ok ? spots.value : []) {
    const led = finish(putAt(opened.build, 'separator', floor))
    const drain = drainInBay(led.build, activeVariant(led.build), states, 'separator')
    const heads = drain?.states.map((s) => s.headM) ?? []
    const held = heads.filter((h) => h <= 0)
    const worst = -Math.min(...heads)
    if (led.stuck.length === 0 && held.length * 2 < heads.length && worst > least && worst < most) return led
  }
  throw new Error('no place lets the separator drain in most states and not in all')
}

/** A demo build in its bay as the station would open it. */
export function demoBayOf(build: Build): DemoBay {
  const { states } = figuresOf(build)
  const opened = finish(openBay(build, states, bayFor(build.engine)))
  const wrong = [...opened.unplaced, ...opened.stuck].map((x) => x.reason)
  if (wrong.length > 0) throw new Error(`${build.name}: ${wrong.join(' ')}`)
  const low = TOO_LOW[build.name]
  const led = low ? tooLow(opened, states, low) : opened
  const lines = activeVariant(led.build).lines.filter((l) => l.way)
  return {
    spots: led.build.bay!.spots.map(({ id, forwardMm, leftMm, upMm }) => ({ id, forwardMm, leftMm, upMm })),
    ways: Object.fromEntries(lines.map((l) => [l.id, l.way])),
  }
}

if (process.argv[1]?.endsWith('demo-bays.ts')) {
  const bays = Object.fromEntries(DEMOS.map((d) => d.plan()).map((b) => [b.name, demoBayOf(b)]))
  writeFileSync('src/server/demo-bays.json', `${JSON.stringify(bays, null, 2)}\n`)
  console.log('src/server/demo-bays.json')
}
