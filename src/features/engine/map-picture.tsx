'use client'
/** The circuit over the whole engine: speed across, manifold pressure up, one of three readings in colour. */
import { scaleLinear } from 'd3-scale'
import { useMemo, useState } from 'react'
import { formatQuantity } from '@/core/units/format'
import { fromSi } from '@/core/units/units'
import type { EngineMap } from '@/plan/studies/map'
import { LIMITS } from '@/plan/model/limits'
import { STATE_NAMES } from '@/plan/document/words'
import { ticksOf } from '@/ui/axis'
import type { JobState } from '../workspace/jobs/jobs'
import { textWidth } from '@/ui/text-width'
import { useUnits, useWorkspace } from '../workspace/store'

type MapReading = 'crankcase' | 'breather' | 'capacity'
const READINGS: readonly { key: MapReading; name: string; edge: string }[] = [
  { key: 'crankcase', name: 'Crankcase', edge: 'heavy line: crankcase at the pressure outside' },
  { key: 'breather', name: 'Breather', edge: 'heavy line: the breather turns round' },
  {
    key: 'capacity',
    name: 'Blow-by of capacity',
    edge: 'heavy line: all that the circuit can carry before seals suffer',
  },
]
const [W, H, LEFT, TOP, RIGHT, BOTTOM] = [540, 206, 44, 4, 8, 28]

/** -1 to 1 of a reading, its edge at 0. */
function level(map: EngineMap, reading: MapReading, at: number): number {
  const clamp = (v: number) => Math.max(-1, Math.min(1, v))
  if (reading === 'crankcase') {
    const g = map.crankcaseGauge[at]!
    return clamp(g > 0 ? g / LIMITS.crankcaseHigh : g / -LIMITS.crankcaseTooLow)
  }
  if (reading === 'breather') {
    const m = map.breather[at]!
    return clamp(Math.sign(m) * Math.sqrt(Math.abs(m) / 4e-3))
  }
  const [b, c] = [map.blowBy[at]!, map.capacity[at]!]
  return clamp(c > 0 ? Math.log2(b / c) / 2 : 1)
}

function colour(v: number, reading: MapReading): string {
  if (Number.isNaN(v)) return 'var(--well)'
  const [low, high] =
    reading === 'crankcase'
      ? ['var(--vacuum)', 'var(--pressure)']
      : reading === 'breather'
        ? ['var(--air)', 'var(--oil-laden)']
        : ['var(--vacuum)', 'var(--pressure)']
  return `color-mix(in oklab, ${v < 0 ? low : high} ${Math.round(12 + 78 * Math.abs(v))}%, var(--sheet))`
}

export function MapPicture({ map: { value: map, progress, failed } }: { map: JobState<EngineMap> }) {
  const units = useUnits()
  const states = useWorkspace((s) => s.analysis.states)
  const current = useWorkspace((s) => s.state)
  const [reading, setReading] = useState<MapReading>('crankcase')
  const [at, setAt] = useState<number | undefined>(undefined)
  const picture = useMemo(() => {
    if (!map) return undefined
    const n = map.size
    const cells = Array.from({ length: n * n }, (_, i) => level(map, reading, i))
    const [w, h] = [(W - LEFT - RIGHT) / n, (H - TOP - BOTTOM) / n]
    const x = (c: number) => LEFT + c * w
    const y = (r: number) => H - BOTTOM - (r + 1) * h
    let edge = ''
    cells.forEach((v, i) => {
      const [r, c] = [Math.floor(i / n), i % n]
      if (c + 1 < n && v > 0 !== cells[i + 1]! > 0) edge += `M${x(c + 1)} ${y(r)}v${h}`
      if (r + 1 < n && v > 0 !== cells[i + n]! > 0) edge += `M${x(c)} ${y(r)}h${w}`
    })
    return {
      n,
      w,
      h,
      x,
      y,
      edge,
      rects: cells.map((v, i) => (
        <rect key={i} x={x(i % n)} y={y(Math.floor(i / n))} width={w} height={h} fill={colour(v, reading)} />
      )),
    }
  }, [map, reading])
  const flow = (kg: number) => {
    const f = formatQuantity(Math.abs(kg), 'gasFlow', units, 2)
    return `${f.text} ${f.unit}`
  }
  const pressure = (pa: number) => {
    const f = formatQuantity(pa, 'pressure', units, 2)
    return `${pa > 0 ? '+' : ''}${f.text} ${f.unit}`
  }
  const toRpm =
    map &&
    scaleLinear()
      .domain([map.rpm[0]!, map.rpm.at(-1)!])
      .range([LEFT, W - RIGHT])
  const toY =
    map &&
    scaleLinear()
      .domain([map.manifoldPa[0]!, map.manifoldPa.at(-1)!])
      .range([H - BOTTOM, TOP])
  // figures along it are round in the unit that is shown
  const shownY = toY?.copy().domain(toY.domain().map((pa) => fromSi('pressure', pa, units.pressure)))
  const about =
    map &&
    at !== undefined &&
    (Number.isNaN(map.crankcaseGauge[at]!)
      ? 'no answer here'
      : `${Math.round(map.rpm[at % map.size]! / 10) * 10} rpm, manifold ${pressure(map.manifoldPa[Math.floor(at / map.size)]! - map.ambientPa)}: crankcase ${pressure(map.crankcaseGauge[at]!)}, breather ${flow(map.breather[at]!)} ${map.breather[at]! >= 0 ? 'out' : 'in'}, blow-by ${flow(map.blowBy[at]!)} of ${flow(map.capacity[at]!)}`)
  return (
    <figure className="pt-1">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1" role="radiogroup" aria-label="What the map shows">
        {READINGS.map((r) => (
          <label key={r.key} className="flex min-h-8 items-center gap-1.5">
            <input
              type="radio"
              name="map-reading"
              className="size-4"
              checked={reading === r.key}
              onChange={() => setReading(r.key)}
            />
            {r.name}
          </label>
        ))}
      </div>
      {failed && (
        <p className="text-stop" role="alert">
          The map could not be worked out: {failed}
        </p>
      )}
      {!picture || !map || !toRpm || !toY || !shownY ? (
        <p className="py-10 text-center text-soft">
          {progress === undefined ? '' : `Working out the map, ${Math.round(progress * 100)} %`}
        </p>
      ) : (
        <svg
          viewBox={`0 0 ${W} ${H}`}
          className="w-full"
          role="img"
          aria-label={`${READINGS.find((r) => r.key === reading)!.name} over speed and manifold pressure`}
          data-testid="engine-map"
          onPointerMove={(e) => {
            const box = e.currentTarget.getBoundingClientRect()
            const [px, py] = [((e.clientX - box.left) / box.width) * W, ((e.clientY - box.top) / box.height) * H]
            const [c, r] = [Math.floor((px - LEFT) / picture.w), Math.floor((H - BOTTOM - py) / picture.h)]
            setAt(c >= 0 && r >= 0 && c < picture.n && r < picture.n ? r * picture.n + c : undefined)
          }}
          onPointerLeave={() => setAt(undefined)}
        >
          <g shapeRendering="crispEdges">{picture.rects}</g>
          <path d={picture.edge} stroke="var(--ink)" strokeWidth="2" fill="none" />
          <path
            d={`M${LEFT} ${toY(map.ambientPa)}H${W - RIGHT}`}
            stroke="var(--ink)"
            strokeWidth="0.8"
            strokeDasharray="2 4"
          />
          {ticksOf(toRpm, 6).map(({ value, text }) => (
            <text
              key={value}
              x={Math.min(toRpm(value), W - 1 - textWidth(text, 11) / 2)}
              y={H - 16}
              textAnchor="middle"
              fontSize="11"
              fill="var(--soft)"
            >
              {text}
            </text>
          ))}
          <text x={W - RIGHT} y={H - 3} textAnchor="end" fontSize="11" fill="var(--soft)">
            rpm
          </text>
          {ticksOf(shownY, 5).map(({ value, text }) => (
            <text key={value} x={LEFT - 5} y={shownY(value) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
              {text}
            </text>
          ))}
          <text x={4} y={H - 3} fontSize="11" fill="var(--soft)">
            manifold, {units.pressure} absolute
          </text>
          {states.map((s) => (
            <g
              key={s.id}
              transform={`translate(${Math.max(LEFT + 8, Math.min(W - RIGHT - 8, toRpm(s.operating.rpm)))} ${Math.max(TOP + 8, Math.min(H - BOTTOM - 8, toY(s.operating.manifoldPa)))})`}
            >
              <title>{STATE_NAMES[s.id]}</title>
              <circle
                r="8"
                fill={s.id === current ? 'var(--blue)' : 'var(--sheet)'}
                stroke="var(--ink)"
                strokeWidth="1.3"
              />
              <text
                y="3.8"
                textAnchor="middle"
                fontSize="10"
                fontWeight="700"
                fill={s.id === current ? 'var(--on-blue)' : 'var(--ink)'}
              >
                {states.indexOf(s) + 1}
              </text>
            </g>
          ))}
        </svg>
      )}
      <figcaption className="min-h-8 text-xs text-soft">
        {about ||
          `${READINGS.find((r) => r.key === reading)!.edge}; numbers are the states. Point at the map to read it.`}
      </figcaption>
    </figure>
  )
}
