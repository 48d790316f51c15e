'use client'
/** The bay in space: hoses as tubes, the can, what stands there, the bonnet as a sheet. Turned with the pointer or the arrow keys. */
import { Canvas, useThree } from '@react-three/fiber'
import { useEffect, useMemo, useRef, useState } from 'react'
import { BufferAttribute, CatmullRomCurve3, DoubleSide, PlaneGeometry, TubeGeometry, Vector3 } from 'three'
import type { Point3 } from '@/core/drain/profile'
import { heightAt } from '@/core/route/distance'
import { tubeRadius } from '@/plan/bay/clearance'
import { drainInBay } from '@/plan/bay/drains'
import { canBody, pointOf } from '@/plan/catalogue/bay-geometry'
import { layOf } from '@/plan/bay/lay'
import { activeVariant } from '@/plan/edit/edit'
import type { Bay, Build } from '@/plan/document/schema'
import { useWorkspace } from '../workspace/store'

/** Up is y here, ahead x, the car's left away from the viewer. */
const seen = ([x, y, z]: Point3): [number, number, number] => [x, z, -y]
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
const COLOURS = ['paper', 'ink', 'rule-strong', 'pressure', 'oil-clean', 'oil-laden', 'blue', 'well', 'water'] as const
type Colours = Readonly<Record<(typeof COLOURS)[number], string>>
const coloursNow = (): Colours => Object.fromEntries(COLOURS.map((c) => [c, css(`--${c}`)])) as unknown as Colours

/** How solid a body is: one looks through the car's panels at what stands between them. */
const SOLID: Partial<Readonly<Record<Bay['keepOuts'][number]['kind'], number>>> = { engine: 0.85, panel: 0.12 }
/** A turn of a key, radians. */
const STEP = 0.12
const clamp = (v: number, low: number, high: number) => Math.max(low, Math.min(high, v))

export default function SpaceView({ bay }: { bay: Bay }) {
  const build = useWorkspace((s) => s.build)
  const [colours] = useState(coloursNow)
  const from = useRef<{ x: number; y: number } | undefined>(undefined)
  const points = bay.spots.map((s) => seen(pointOf(s)))
  const middle = [0, 1, 2].map(
    (k) => (Math.min(...points.map((p) => p[k]!)) + Math.max(...points.map((p) => p[k]!))) / 2,
  )
  const wide = Math.hypot(
    ...[0, 1, 2].map((k) => Math.max(...points.map((p) => p[k]!)) - Math.min(...points.map((p) => p[k]!))),
  )
  const [angles, setAngles] = useState({ round: -0.7, up: 0.5, far: clamp(1.9 * wide + 0.8, 1.4, 4) })
  const turn = (dx: number, dy: number) =>
    setAngles((a) => ({ ...a, round: a.round - dx, up: clamp(a.up + dy, -0.3, 1.5) }))
  const { round, up, far } = angles
  const eye: [number, number, number] = [
    middle[0]! + far * Math.cos(up) * Math.cos(round),
    middle[1]! + far * Math.sin(up),
    middle[2]! - far * Math.cos(up) * Math.sin(round),
  ]
  return (
    <figure className="min-w-0">
      <figcaption className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <span className="head">In space</span>
        <span className="text-xs text-soft">drag, or arrows, + and −</span>
      </figcaption>
      {/* a picture that is turned by pointer and keys is an application to a screen reader */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <div
        role="application"
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        aria-label="The bay in space; arrow keys turn it, plus and minus come nearer and go further"
        className="h-[300px] w-full touch-none"
        onKeyDown={(e) => {
          const by = { ArrowLeft: [-STEP, 0], ArrowRight: [STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP] }[e.key]
          if (by) turn(by[0]!, by[1]!)
          else if (e.key === '+' || e.key === '=') setAngles((a) => ({ ...a, far: clamp(a.far / 1.1, 0.5, 4) }))
          else if (e.key === '-') setAngles((a) => ({ ...a, far: clamp(a.far * 1.1, 0.5, 4) }))
          else return
          e.preventDefault()
        }}
        onPointerDown={(e) => {
          from.current = { x: e.clientX, y: e.clientY }
          e.currentTarget.setPointerCapture(e.pointerId)
        }}
        onPointerMove={(e) => {
          if (!from.current) return
          turn((e.clientX - from.current.x) / 160, (e.clientY - from.current.y) / 160)
          from.current = { x: e.clientX, y: e.clientY }
        }}
        onPointerUp={() => {
          from.current = undefined
        }}
        onWheel={(e) => setAngles((a) => ({ ...a, far: clamp(a.far * (e.deltaY > 0 ? 1.08 : 0.93), 0.5, 4) }))}
      >
        <Canvas frameloop="demand" camera={{ fov: 35, near: 0.05, far: 20 }}>
          <Eye at={eye} to={middle as [number, number, number]} />
          <ambientLight intensity={1.4} />
          <directionalLight position={[1, 3, 2]} intensity={1.6} />
          <Scene build={build} bay={bay} colours={colours} />
        </Canvas>
      </div>
    </figure>
  )
}

/** Puts the camera where the viewer turned to, and has the picture drawn once. */
function Eye({ at: [x, y, z], to: [tx, ty, tz] }: { at: [number, number, number]; to: [number, number, number] }) {
  const get = useThree((s) => s.get)
  useEffect(() => {
    const { camera, invalidate } = get()
    camera.position.set(x, y, z)
    camera.lookAt(tx, ty, tz)
    invalidate()
  }, [get, x, y, z, tx, ty, tz])
  return null
}

/** Points of a tube: more than one, none on top of the next. */
const curveOf = (points: readonly Point3[]) =>
  new CatmullRomCurve3(
    points.map((p) => new Vector3(...seen(p))),
    false,
    'centripetal',
  )

function Tube({ points, radiusM, colour }: { points: readonly Point3[]; radiusM: number; colour: string }) {
  const shape = useMemo(
    () => new TubeGeometry(curveOf(points), Math.max(8, points.length * 4), radiusM, 10),
    [points, radiusM],
  )
  return (
    <mesh geometry={shape}>
      <meshStandardMaterial color={colour} roughness={0.6} />
    </mesh>
  )
}

/** The bonnet through the points that were measured. */
function Sheet({ bay, colour }: { bay: Bay; colour: string }) {
  const shape = useMemo(() => {
    const known = bay.bonnet.map(pointOf)
    const all = [...known, ...bay.spots.map(pointOf)]
    const [x0, x1] = [Math.min(...all.map((p) => p[0])) - 0.05, Math.max(...all.map((p) => p[0])) + 0.05]
    const [y0, y1] = [Math.min(...all.map((p) => p[1])) - 0.05, Math.max(...all.map((p) => p[1])) + 0.05]
    const N = 12
    const plane = new PlaneGeometry(1, 1, N, N)
    const at: number[] = []
    for (let i = 0; i <= N; i++)
      for (let k = 0; k <= N; k++) {
        const [x, y] = [x0 + ((x1 - x0) * k) / N, y0 + ((y1 - y0) * i) / N]
        at.push(...seen([x, y, heightAt(known, x, y) ?? 0]))
      }
    plane.setAttribute('position', new BufferAttribute(new Float32Array(at), 3))
    plane.computeVertexNormals()
    return plane
  }, [bay])
  if (bay.bonnet.length === 0) return null
  return (
    <mesh geometry={shape}>
      <meshStandardMaterial color={colour} transparent opacity={0.22} side={DoubleSide} depthWrite={false} />
    </mesh>
  )
}

function Scene({ build, bay, colours }: { build: Build; bay: Bay; colours: Colours }) {
  const select = useWorkspace((s) => s.select)
  const selected = useWorkspace((s) => s.selected?.id)
  const states = useWorkspace((s) => s.analysis.states)
  const shown = useWorkspace((s) => s.state)
  const variant = activeVariant(build)
  const hoses = useMemo(
    () =>
      activeVariant(build).lines.flatMap((l) => {
        const lay = l.kind === 'direct' ? undefined : layOf(build.bay, activeVariant(build), l)
        return lay?.ok ? [{ l, middle: lay.value.middle }] : []
      }),
    [build],
  )
  /** stretches of a return that stand under oil in the state that is looked at */
  const standing = variant.parts.flatMap((p) => {
    const drain = p.kind === 'can' && p.drain === 'own' ? drainInBay(build, variant, states, p.id) : undefined
    const column = drain?.states.find((s) => s.id === shown)?.columnM
    if (!drain || column === undefined || column <= 0.005) return []
    const level = drain.way.at(-1)![2] + column
    const middle = hoses.find((h) => h.l.id === drain.line.id)?.middle.filter((q) => q[2] <= level) ?? []
    return middle.length > 1 ? [{ id: p.id, middle, radiusM: tubeRadius(drain.line.boreMm) + 0.0015 }] : []
  })
  return (
    <>
      {bay.keepOuts.map((k) => {
        const args: [number, number, number] = [k.longMm / 1000, k.highMm / 1000, k.wideMm / 1000]
        return (
          <mesh key={k.id} position={seen(pointOf(k))} rotation={k.round ? LYING[k.lies ?? 'up'] : undefined}>
            {k.round ? <cylinderGeometry args={cylinderOf(k)} /> : <boxGeometry args={args} />}
            <meshStandardMaterial
              color={k.kind === 'hot' ? colours.pressure : colours['rule-strong']}
              transparent
              opacity={SOLID[k.kind] ?? 0.55}
              depthWrite={k.kind !== 'panel'}
            />
          </mesh>
        )
      })}
      {hoses.map(({ l, middle }) => (
        <group key={l.id} onClick={() => select({ kind: 'line', id: l.id })}>
          <Tube
            points={middle}
            radiusM={tubeRadius(l.boreMm)}
            colour={selected === l.id ? colours.blue : l.kind === 'drain' ? colours.ink : colours['oil-clean']}
          />
        </group>
      ))}
      {standing.map((s) => (
        <Tube key={s.id} points={s.middle} radiusM={s.radiusM} colour={colours['oil-laden']} />
      ))}
      {variant.parts.map((p) => {
        const body = p.kind === 'can' ? canBody(bay, p) : undefined
        if (!body) return null
        const [x, y, z] = body.floor
        return (
          <group key={p.id} onClick={() => select({ kind: 'part', id: p.id })}>
            <mesh position={seen([x, y, z + body.heightM / 2])}>
              <cylinderGeometry args={[body.radiusM, body.radiusM, body.heightM, 28]} />
              <meshStandardMaterial
                color={selected === p.id ? colours.blue : colours.well}
                metalness={0.3}
                roughness={0.5}
              />
            </mesh>
            <mesh position={seen([x, y, z + body.heightM])}>
              <cylinderGeometry args={[body.radiusM + 0.004, body.radiusM + 0.004, 0.012, 28]} />
              <meshStandardMaterial color={colours.ink} />
            </mesh>
          </group>
        )
      })}
      {bay.spots.map((s) => (
        <mesh key={s.id} position={seen(pointOf(s))}>
          <sphereGeometry args={[0.009, 12, 12]} />
          <meshStandardMaterial color={colours.ink} />
        </mesh>
      ))}
      <Sheet bay={bay} colour={colours.water} />
    </>
  )
}

/** A cylinder of the library stands along its second axis: turned to lie ahead (first) or left (third). */
const LYING: Readonly<Record<'up' | 'ahead' | 'left', [number, number, number]>> = {
  up: [0, 0, 0],
  ahead: [0, 0, Math.PI / 2],
  left: [Math.PI / 2, 0, 0],
}
function cylinderOf(k: Bay['keepOuts'][number]): [number, number, number, number] {
  const [long, wide, high] = [k.longMm / 1000, k.wideMm / 1000, k.highMm / 1000]
  if (k.lies === 'ahead') return [high / 2, high / 2, long, 24]
  return k.lies === 'left' ? [high / 2, high / 2, wide, 24] : [long / 2, long / 2, high, 24]
}
