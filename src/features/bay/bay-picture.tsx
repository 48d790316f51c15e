'use client'
/** The bay from one side: hoses, cans, what stands there, the bonnet over it. A can is dragged, or moved by the arrow keys. */
import type { Point3 } from '@/core/drain/profile'
import { quantityText } from '@/core/units/format'
import { toSi } from '@/core/units/units'
import { endPlace, pointOf } from '@/plan/catalogue/bay-geometry'
import { layOf, wayOf } from '@/plan/bay/lay'
import { tightGaps } from '@/plan/bay/clearance'
import { flat, isCircleFrom, SIDE_NAMES, type Side } from '@/plan/bay/drawing'
import { activeVariant } from '@/plan/edit/edit'
import { changeBay } from '@/plan/bay/bay-builders'
import type { Bay, Build } from '@/plan/document/schema'
import type { Label } from '@/ui/labels'
import { useUnits, useWorkspace } from '../workspace/store'
import { bayLabels } from './bay-labels'
import { UnderlayControl, useUnderlay, type Under as Photo } from './underlay'
import { CanMark } from './can-mark'
import { Movable, movedBy, type Move } from './movable'
import {
  canBox,
  frameFor,
  hoseWidth,
  isMarked,
  isNamed,
  keepOutBox,
  lidLine,
  namedFirst,
  place,
  byDepth,
  type Frame,
} from './view'

const [W, H] = [330, 300]
const HINTS: Readonly<Record<Side, string>> = {
  left: 'ahead is to the right',
  above: 'ahead is to the right, left is up',
  front: 'the car’s left is to the right',
}
/** Gaps that are marked at most. */
const MOST_GAPS = 6

export function BayPicture({ side, bay }: { side: Side; bay: Bay }) {
  const build = useWorkspace((s) => s.build)
  const variant = activeVariant(build)
  const select = useWorkspace((s) => s.select)
  const selected = useWorkspace((s) => s.selected?.id)
  const units = useUnits()
  const temperature = (c: number) => quantityText(toSi('temperature', c, 'C'), 'temperature', units, 3)
  const lay = useUnderlay(side)
  const cans = variant.parts.flatMap((p) => (p.kind === 'can' ? [p] : []))
  const frame = frameFor(cornersOf(side, bay), W, H)
  const lines = variant.lines.flatMap((l) => {
    const lay = l.kind === 'direct' ? undefined : layOf(bay, variant, l)
    const way = lay?.ok ? lay.value.middle : lay && wayOf(bay, variant, l)
    return way ? [{ l, way }] : []
  })
  const gaps = tightGaps(build, variant)
    .filter((g) => g.at)
    .slice(0, MOST_GAPS)
  const ends = new Map(
    variant.lines.flatMap((l) =>
      l.kind === 'direct'
        ? []
        : [l.from, l.to].flatMap((e) => {
            const part = variant.parts.find((p) => p.id === e.part)
            const at = endPlace(bay, variant, e)?.at
            return part && at && part.kind !== 'can' ? [[`${e.part}.${e.port}`, { at, name: part.name }] as const] : []
          }),
    ),
  )
  const names = [
    ...bay.keepOuts.map((k) => ({
      id: k.id,
      text: k.kind === 'hot' && k.surfaceC !== undefined ? `${k.name}, ${temperature(k.surfaceC)}` : k.name,
    })),
    ...cans.map((can) => ({ id: can.id, text: can.name, strong: true })),
    { id: 'datum', text: bay.datum.toLowerCase() },
    { id: 'bonnet', text: 'bonnet' },
  ]
  const textOf = (id: string) => names.find((n) => n.id === id)!.text
  const labels = bayLabels({
    picture: [0, 0, W, H],
    datum: { at: place(frame, side, [0, 0, 0]), text: textOf('datum') },
    cans: cans.flatMap((can) => {
      const box = canBox(frame, side, bay, can)
      return box ? [{ id: can.id, box, text: can.name }] : []
    }),
    standing: bay.keepOuts
      .filter(isNamed)
      .toSorted(namedFirst)
      .map((k) => ({
        id: k.id,
        box: keepOutBox(frame, side, k),
        text: textOf(k.id),
        plain: !isMarked(k),
      })),
    hoses: lines.map(({ l, way }) => ({
      points: way.map((p) => place(frame, side, p)),
      half: hoseWidth(frame, l.boreMm) / 2 + 2,
    })),
    marks: [
      ...[...ends.values()].map((e) => ({ at: place(frame, side, e.at), radius: 5 })),
      ...gaps.map((g) => ({ at: place(frame, side, g.at!), radius: 6 })),
    ],
    bonnet: lidLine(frame, side, bay),
  })
  return (
    <figure className="min-w-0">
      <figcaption className="flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <span className="head">{SIDE_NAMES[side]}</span>
        <span className="text-xs text-soft">{HINTS[side]}</span>
      </figcaption>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="group"
        aria-label={`The bay ${SIDE_NAMES[side].toLowerCase()}`}
      >
        {lay.under && <Under under={lay.under} frame={frame} />}
        <Ground frame={frame} side={side} bay={bay} />
        {lines.map(({ l, way }) => {
          const d = `M${way.map((p) => place(frame, side, p).join(' ')).join('L')}`
          const width = hoseWidth(frame, l.boreMm)
          return (
            <g key={l.id} onClick={() => select({ kind: 'line', id: l.id })} className="cursor-pointer">
              <title>{l.name}</title>
              <path
                d={d}
                fill="none"
                stroke={selected === l.id ? 'var(--blue)' : 'var(--ink)'}
                strokeWidth={width + 2.5}
                strokeLinejoin="round"
                strokeLinecap="round"
              />
              <path
                d={d}
                fill="none"
                stroke={l.kind === 'drain' ? 'var(--oil-laden)' : 'var(--oil-clean)'}
                strokeWidth={width}
                strokeLinejoin="round"
                strokeLinecap="round"
              />
            </g>
          )
        })}
        {[...ends].map(([id, { at, name }]) => {
          const [x, y] = place(frame, side, at)
          return (
            <g key={id}>
              <title>{name}</title>
              <circle cx={x} cy={y} r="4" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
            </g>
          )
        })}
        {gaps.map((g) => {
          const [x, y] = place(frame, side, g.at!)
          return (
            <g key={`${g.of} ${g.to}`} className="pointer-events-none">
              <title>{`${g.name}: ${quantityText(g.gapM, 'length', units, 2)} from ${g.to}`}</title>
              <path
                d={`M${x - 5} ${y}l5 -5l5 5l-5 5z`}
                fill="var(--pressure)"
                stroke="var(--paper)"
                strokeWidth="1.5"
              />
            </g>
          )
        })}
        {cans.map((can) => (
          <CanMark key={can.id} can={can} side={side} frame={frame} bay={bay} />
        ))}
        <Names names={names} at={labels} />
      </svg>
      <UnderlayControl side={side} lay={lay} />
    </figure>
  )
}

/** A photograph at the bay's own scale, pale. */
function Under({ under: { url, place: p }, frame }: { under: Photo; frame: Frame }) {
  const [w, h] = [p.width * p.metresPerPixel, p.height * p.metresPerPixel]
  return (
    <image
      href={url}
      x={frame.x(p.left)}
      y={frame.y(p.bottom + h)}
      width={w * frame.scale}
      height={h * frame.scale}
      opacity="0.4"
      preserveAspectRatio="none"
    />
  )
}

/** Names of what is drawn, where they lie on nothing. */
function Names({
  names,
  at,
}: {
  names: readonly { readonly id: string; readonly text: string; readonly strong?: boolean }[]
  at: ReadonlyMap<string, Label>
}) {
  return names.map(({ id, text, strong }) => {
    const label = at.get(id)
    return (
      label && (
        <text
          key={id}
          x={label.x}
          y={label.y}
          textAnchor={label.anchor}
          fontSize={strong ? 11 : 10.5}
          fontWeight={strong ? 700 : undefined}
          fill={strong ? 'var(--ink)' : 'var(--soft)'}
          stroke="var(--paper)"
          strokeWidth="3"
          paintOrder="stroke"
          className="pointer-events-none"
        >
          {text}
        </text>
      )
    )
  })
}

/** Everything that must be in view. */
function cornersOf(side: Side, bay: Bay): readonly (readonly [number, number])[] {
  const boxes = bay.keepOuts.flatMap((k) =>
    [-1, 1].map((s): Point3 => {
      const [x, y, z] = pointOf(k)
      return [x + (s * k.longMm) / 2000, y + (s * k.wideMm) / 2000, z + (s * k.highMm) / 2000]
    }),
  )
  const points = [[0, 0, 0] as Point3, ...bay.spots.map(pointOf), ...bay.bonnet.map(pointOf), ...boxes]
  return points.map((p) => flat(side, p))
}

/** Something that stands there: dragged, or moved by the arrow keys. */
function KeepOutMark({ k, side, frame }: { k: Bay['keepOuts'][number]; side: Side; frame: Frame }) {
  const act = useWorkspace((s) => s.act)
  const [x, y, w, h] = keepOutBox(frame, side, k)
  const moved = (by: Move) => (build: Build) => {
    const keepOuts = (build.bay?.keepOuts ?? []).map((o) =>
      o.id === k.id ? { ...o, ...movedBy(o, by), measured: true } : o,
    )
    return changeBay({ keepOuts })(build)
  }
  return (
    <Movable
      side={side}
      frame={frame}
      label={`${k.name}.`}
      onMove={(by) => act(moved(by), `${k.name} moved`, `place ${k.id}`)}
    >
      <title>{k.name}</title>
      <rect
        x={x}
        y={y}
        width={w}
        height={h}
        rx={isCircleFrom(side, k) ? w / 2 : 3}
        fill={isMarked(k) ? `url(#${k.kind}-${side})` : k.kind === 'panel' ? 'none' : 'var(--well)'}
        fillOpacity={k.kind === 'engine' ? 0.85 : undefined}
        stroke={k.kind === 'hot' ? 'var(--pressure)' : k.kind === 'engine' ? 'var(--ink)' : 'var(--rule-strong)'}
        strokeWidth={k.kind === 'engine' ? 1.2 : 1}
        strokeDasharray={k.measured ? undefined : '4 3'}
      />
    </Movable>
  )
}

/** What stands there: boxes by kind, the bonnet from the side, the datum. */
function Ground({ frame, side, bay }: { frame: Frame; side: Side; bay: Bay }) {
  const [dx, dy] = place(frame, side, [0, 0, 0])
  const lid = lidLine(frame, side, bay)
  return (
    <>
      <defs>
        <pattern id={`hot-${side}`} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" stroke="var(--pressure)" strokeWidth="1.6" opacity="0.55" />
        </pattern>
        <pattern id={`moving-${side}`} width="6" height="6" patternUnits="userSpaceOnUse">
          <circle cx="3" cy="3" r="1.1" fill="var(--ink)" />
        </pattern>
      </defs>
      {bay.keepOuts.toSorted(byDepth(side)).map((k) => (
        <KeepOutMark key={k.id} k={k} side={side} frame={frame} />
      ))}
      {lid.length > 0 && (
        <path d={`M${lid.map((at) => at.join(' ')).join('L')}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      )}
      <g stroke="var(--ink)" fill="none">
        <circle cx={dx} cy={dy} r="5" />
        <path d={`M${dx - 9} ${dy}h18M${dx} ${dy - 9}v18`} />
      </g>
    </>
  )
}
