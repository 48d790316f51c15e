/** A bay as full as one gets, for timing: twelve hoses and forty things in the way. */
import { setBay } from '@/plan/bay/bay-builders'
import { readyBay } from '@/plan/catalogue/bays'
import type { Build, Line, Part } from '@/plan/document/schema'
import { perform } from '@/plan/edit/edit-builders'
import { newBuild } from '@/plan/schools/new-build'
import { hose, port } from '@/plan/catalogue/parts'

const [HOSES, THINGS] = [12, 40]

export function fullBay(): Build {
  const base = newBuild({
    name: 'Full bay',
    engineClass: 'f4-turbo',
    use: 'street-track',
    ambientC: 10,
    units: 'metric',
    school: 'separator-return',
  })
  const v = base.variants[0]!
  const routed = v.lines.filter((l) => l.kind !== 'direct').length
  // a row of tees from the cover on, and hoses from one to the next
  const tees = Array.from({ length: Math.max(0, HOSES - routed) }, (_, i): Part => ({
    kind: 'tee',
    id: `tee-${i}`,
    name: `Tee ${i + 1}`,
    ports: ['a', 'b', 'c'].map((p) => port(p, `Side ${p}`)),
    at: undefined,
  }))
  const row = tees.map((t, i): Line => {
    const from = i === 0 ? 'separator.spare' : `tee-${i - 1}.b`
    return hose(`row-${i}`, `Hose ${i + 1}`, { from, to: `${t.id}.a`, boreMm: 9.5, lengthMm: 200 })
  })
  const parts = v.parts.map((p) =>
    p.id === 'separator' ? ({ ...p, ports: [...p.ports, port('spare', 'Spare')] } as Part) : p,
  )
  const build = { ...base, variants: [{ ...v, parts: [...parts, ...tees], lines: [...v.lines, ...row] }] }
  const ready = readyBay(build, build.variants[0]!, 'flat')
  const keepOuts = Array.from({ length: THINGS }, (_, i) => ({
    ...ready.keepOuts[i % ready.keepOuts.length]!,
    id: `k${i}`,
    forwardMm: -200 + 25 * i,
    upMm: -500 + 5 * i,
  }))
  const made = perform(build, setBay({ ...ready, keepOuts }))
  if (!made.ok) throw new Error(made.reason)
  return made.value
}
