'use client'
/** A recording over time: the states it was driven in, what was read on what this plan predicts, and the manifold below. */
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { Maximize2, Scissors, ZoomIn, ZoomOut } from 'lucide-react'
import { STATE_IDS, type StateId } from '@/core/engine/states'
import { spellsOf } from '@/core/recording/driving-state'
import { formatNumber, quantityText } from '@/core/units/format'
import { fromSi, toSi, unitLabel } from '@/core/units/units'
import type { Moment } from '@/plan/model/moment'
import { STATE_NAMES } from '@/plan/document/words'
import { pressureScale } from '@/ui/pressure-scale'
import { textWidth } from '@/ui/text-width'
import { useUnits } from '../workspace/store'
import type { DrawnRecording } from './recording-job'
import { extentsOf, moved, sampleAt, zoomed, type ColumnExtent, type TimeWindow } from './view-of'

/** As wide as its place, within these: letters keep their size. */
const [NARROWEST, WIDEST] = [340, 960]
const [LEFT, RIBBON, TOP, HEIGHT, BELOW, LOW] = [44, 22, 34, 190, 240, 70]
const BOTTOM = BELOW + LOW
const COLUMNS = 460
/** Pressures below this stand near the atmosphere line, Pa, as on the ladder. */
const LINEAR_PA = 150

/** Each state has a ground and a pattern of its own, named too where there is room. */
const GROUNDS: Readonly<Record<StateId, string>> = {
  idle: 'var(--well)',
  cruise: 'var(--vacuum-wash)',
  pull: 'color-mix(in oklab, var(--oil-clean) 55%, var(--paper))',
  spool: 'color-mix(in oklab, var(--oil-clean) 30%, var(--paper))',
  boost: 'var(--pressure-wash)',
  overrun: 'var(--blue-wash)',
}

/** m:ss, or with tenths where the window is short. */
export function timeText(t: number, fine = false): string {
  const minutes = Math.floor(t / 60)
  const seconds = t - 60 * minutes
  return `${minutes}:${(fine ? seconds.toFixed(1) : String(Math.floor(seconds))).padStart(fine ? 4 : 2, '0')}`
}

/** An outline of the extents: along the top and back along the bottom. */
const outline = (extents: readonly ColumnExtent[], x: (share: number) => number, y: (v: number) => number): string =>
  extents.length === 0
    ? ''
    : `M${extents.map((e) => `${x(e.x).toFixed(1)} ${y(e.high).toFixed(1)}`).join('L')}L${extents
        .toReversed()
        .map((e) => `${x(e.x).toFixed(1)} ${y(e.low).toFixed(1)}`)
        .join('L')}Z`

const niceStep = (span: number): number =>
  [0.5, 1, 2, 5, 10, 20, 30, 60, 120, 300, 600, 1200, 1800, 3600].find((s) => span / s <= 8) ?? 7200

/** A wheel that moved elsewhere so lately scrolls the page, ms. */
const PASSING_MS = 350

/** Share of the shown time at which a pointer stands. */
function timeShare(svg: SVGSVGElement, clientX: number): number {
  const box = svg.getBoundingClientRect()
  const width = svg.viewBox.baseVal.width
  return Math.max(0, Math.min(1, (((clientX - box.left) / box.width) * width - LEFT) / (width - LEFT)))
}

type Props = {
  readonly drawn: DrawnRecording
  /** a place that was pressed in the list */
  readonly place: TimeWindow | undefined
  /** the moment under the hand, as it moves */
  readonly onHand: (moment: HandMoment) => void
  /** cuts the recording to the stretch that is shown */
  readonly onTrim: (shown: TimeWindow) => void
}
export type HandMoment = Moment & { readonly time: string }

export function RecordingPicture({ drawn, place, onHand, onTrim }: Props) {
  const units = useUnits()
  const { seconds, crankcase, manifoldPa, states } = drawn
  const whole = useMemo(() => ({ from: seconds[0]!, to: seconds.at(-1)! }), [seconds])
  const [shown, setShown] = useState<TimeWindow>(whole)
  const [hand, setHand] = useState<number | undefined>(undefined)
  const svg = useRef<SVGSVGElement>(null)
  const [W, setWidth] = useState(WIDEST)
  useEffect(() => {
    const follow = new ResizeObserver(([entry]) =>
      setWidth(Math.round(Math.max(NARROWEST, Math.min(WIDEST, entry!.contentRect.width)))),
    )
    follow.observe(svg.current!)
    return () => follow.disconnect()
  }, [])
  /** fingers or button that are down, and where the last of them began */
  const held = useRef(new Map<number, number>())
  const begun = useRef<{ readonly x: number; readonly window: TimeWindow } | undefined>(undefined)
  const [seen, setSeen] = useState(place)
  if (place !== seen) {
    setSeen(place)
    if (place) {
      const around = Math.max(4, place.to - place.from)
      setShown(moved({ from: place.from - around / 2, to: place.to + around / 2 }, whole, 0))
    }
  }

  const scale = useMemo(() => {
    const all = [...crankcase, ...drawn.low, ...drawn.high].filter(Number.isFinite)
    const [low, high] = all.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [-400, 400])
    return { low, high, y: pressureScale(LINEAR_PA, [high * 1.25, low * 1.25], [TOP, TOP + HEIGHT]) }
  }, [crankcase, drawn])
  const spells = useMemo(() => spellsOf(states), [states])
  const most = useMemo(() => manifoldPa.reduce((m, v) => (v > m ? v : m), 0), [manifoldPa])
  const x = (share: number) => LEFT + share * (W - LEFT)
  const at = (t: number) => x((t - shown.from) / (shown.to - shown.from))
  const pictures = useMemo(() => {
    const band = extentsOf(drawn, drawn.low, shown, COLUMNS)
    const top = extentsOf(drawn, drawn.high, shown, COLUMNS)
    const highs = new Map(top.map((e) => [e.x, e.high]))
    return {
      band: band.map((e) => ({ x: e.x, low: e.low, high: highs.get(e.x) ?? e.high })),
      read: extentsOf(drawn, drawn.crankcase, shown, COLUMNS),
      manifold: extentsOf(drawn, drawn.manifoldPa, shown, COLUMNS),
    }
  }, [drawn, shown])
  const yManifold = (pa: number) => BOTTOM - (LOW * pa) / (1.05 * most)

  /** The time under a pointer. */
  const timeOf = (clientX: number): number => shown.from + timeShare(svg.current!, clientX) * (shown.to - shown.from)
  // a wheel that zooms must not scroll the page: such a listener cannot be given in the markup
  useEffect(() => {
    const node = svg.current
    let passing = -Infinity
    const elsewhere = (event: WheelEvent) => {
      if (!node?.contains(event.target as Node)) passing = event.timeStamp
    }
    const wheel = (event: WheelEvent) => {
      const asked = event.ctrlKey || event.shiftKey || event.altKey
      // one that came scrolling over the page goes on scrolling it
      if (!asked && event.timeStamp - passing < PASSING_MS) {
        passing = event.timeStamp
        return
      }
      event.preventDefault()
      if (Math.abs(event.deltaX) > Math.abs(event.deltaY))
        setShown((s) => moved(s, whole, ((s.to - s.from) * event.deltaX) / 800))
      else {
        const about = timeShare(node!, event.clientX)
        setShown((s) => zoomed(s, whole, event.deltaY > 0 ? 1.25 : 0.8, s.from + about * (s.to - s.from)))
      }
    }
    addEventListener('wheel', elsewhere, { passive: true })
    node?.addEventListener('wheel', wheel, { passive: false })
    return () => {
      removeEventListener('wheel', elsewhere)
      node?.removeEventListener('wheel', wheel)
    }
  }, [whole])
  const pointTo = (t: number) => {
    setHand(t)
    const k = Math.min(seconds.length - 1, sampleAt(seconds, t))
    const state = STATE_IDS[states[k]!]
    if (state) onHand({ state, rpm: drawn.rpm[k]!, manifoldPa: manifoldPa[k]!, time: timeText(seconds[k]!, true) })
  }
  const pointAt = (clientX: number) => pointTo(timeOf(clientX))
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    const fingers = held.current
    if (!fingers.has(event.pointerId)) return pointAt(event.clientX)
    const [before, start] = [new Map(fingers), begun.current]
    fingers.set(event.pointerId, event.clientX)
    const box = event.currentTarget.getBoundingClientRect()
    if (fingers.size === 2 && start) {
      // two fingers: what lay between them stays between them
      const [a, b] = [...before.values()] as [number, number]
      const [c, d] = [...fingers.values()] as [number, number]
      const about = timeOf((c + d) / 2)
      setShown((s) => zoomed(s, whole, Math.abs(a - b) / Math.max(8, Math.abs(c - d)), about))
      return
    }
    pointAt(event.clientX)
    if (!start) return
    const length = start.window.to - start.window.from
    setShown(moved(start.window, whole, (-(event.clientX - start.x) / box.width) * length))
  }
  const lift = (event: PointerEvent<SVGSVGElement>) => {
    held.current.delete(event.pointerId)
    begun.current = undefined
  }
  const middle = (shown.from + shown.to) / 2
  const zoom = (factor: number) => setShown(zoomed(shown, whole, factor, hand ?? middle))
  const key = (event: KeyboardEvent) => {
    const step = (shown.to - shown.from) / 8
    // with Shift the hand moves, and not the window under it
    const pointed = (by: number) => () =>
      pointTo(Math.max(shown.from, Math.min(shown.to, (hand ?? middle) + (by * (shown.to - shown.from)) / 80)))
    const doing: Record<string, () => void> = {
      'Shift ArrowLeft': pointed(-1),
      'Shift ArrowRight': pointed(1),
      ArrowLeft: () => setShown(moved(shown, whole, -step)),
      ArrowRight: () => setShown(moved(shown, whole, step)),
      '+': () => zoom(0.5),
      '-': () => zoom(2),
      Home: () => setShown(whole),
    }
    const does = doing[event.shiftKey && event.key.startsWith('Arrow') ? `Shift ${event.key}` : event.key]
    if (!does) return
    event.preventDefault()
    event.stopPropagation()
    does()
  }

  const step = niceStep(shown.to - shown.from)
  const times = Array.from(
    { length: Math.floor(shown.to / step) - Math.ceil(shown.from / step) + 1 },
    (_, k) => (Math.ceil(shown.from / step) + k) * step,
  )
  const ticks = [0.1, 0.3, 1, 3, 10, 30, 100]
    .flatMap((v) => [v, -v])
    .map((v) => ({ v, pa: toSi('pressure', v, units.pressure) }))
    .filter((t) => t.pa <= scale.high * 1.2 && t.pa >= scale.low * 1.2 && Math.abs(scale.y(t.pa) - scale.y(0)) > 12)
  const under = hand === undefined ? undefined : Math.min(seconds.length - 1, sampleAt(seconds, hand))
  const pressure = (pa: number) => (Number.isFinite(pa) ? quantityText(pa, 'pressure', units, 2) : 'no reading')
  const said =
    under === undefined
      ? undefined
      : `${timeText(seconds[under]!, true)}: ${pressure(crankcase[under]!)}, predicted ${pressure(drawn.middle[under]!)}`
  return (
    <figure>
      <figcaption className="flex flex-wrap items-center justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <span className="head">Crankcase, measured on what this plan predicts</span>
        <span className="flex items-center gap-1">
          <span className="text-xs tabular-nums text-soft" aria-live="off">
            {said ?? `${unitLabel(units.pressure)}; drag or arrows move, wheel or + − zoom`}
          </span>
          {(
            [
              ['Closer', ZoomIn, () => zoom(0.5)],
              ['Farther', ZoomOut, () => zoom(2)],
              ['All of it', Maximize2, () => setShown(whole)],
              ['Cut to what is shown', Scissors, () => onTrim(shown)],
            ] as const
          ).map(([name, Icon, press]) => (
            <button
              key={name}
              type="button"
              className="icon-button no-print"
              aria-label={name}
              title={name}
              onClick={press}
            >
              <Icon size={17} aria-hidden />
            </button>
          ))}
        </span>
      </figcaption>
      {/* a picture that is moved by pointer and keys */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
      <svg
        ref={svg}
        viewBox={`0 0 ${W} ${BOTTOM + 18}`}
        className="w-full touch-pan-y select-none"
        role="application"
        aria-roledescription="recording over time"
        aria-label={`Recording of ${timeText(whole.to - whole.from)}, shown from ${timeText(shown.from)} to ${timeText(shown.to)}`}
        // it takes the keyboard to be moved
        // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        onKeyDown={key}
        onPointerDown={(event) => {
          held.current.set(event.pointerId, event.clientX)
          begun.current = { x: event.clientX, window: shown }
          event.currentTarget.setPointerCapture(event.pointerId)
        }}
        onPointerMove={drag}
        onPointerUp={lift}
        onPointerCancel={lift}
        onPointerLeave={() => setHand(undefined)}
      >
        <clipPath id="recording-window">
          <rect x={LEFT} y="0" width={W - LEFT} height={BOTTOM} />
        </clipPath>
        <g clipPath="url(#recording-window)">
          {spells
            .filter((s) => s.state >= 0 && seconds[s.end - 1]! >= shown.from && seconds[s.from]! <= shown.to)
            .map((s) => {
              const id = STATE_IDS[s.state]!
              const [a, b] = [
                Math.max(LEFT, at(seconds[s.from]!)),
                Math.min(W, at(seconds[Math.min(s.end, seconds.length - 1)]!)),
              ]
              const name = STATE_NAMES[id].toLowerCase()
              return (
                <g key={s.from}>
                  <rect
                    x={a}
                    y="0"
                    width={Math.max(0.5, b - a)}
                    height={RIBBON}
                    fill={GROUNDS[id]}
                    stroke="var(--paper)"
                    strokeWidth="0.8"
                  />
                  {b - a > textWidth(name, 11) + 8 && (
                    <text x={a + 4} y="15" fontSize="11" fill="var(--ink)">
                      {name}
                    </text>
                  )}
                </g>
              )
            })}
          {ticks.map((t) => (
            <path
              key={t.v}
              d={`M${LEFT} ${scale.y(t.pa)}H${W}`}
              stroke="var(--rule-strong)"
              strokeWidth="0.6"
              strokeDasharray="1 4"
            />
          ))}
          <path d={outline(pictures.band, x, scale.y)} fill="var(--oil-clean)" opacity="0.75" />
          <path d={`M${LEFT} ${scale.y(0)}H${W}`} stroke="var(--ink)" strokeWidth="1" />
          <path
            d={outline(pictures.read, x, scale.y)}
            fill="var(--ink)"
            stroke="var(--ink)"
            strokeWidth="1.3"
            strokeLinejoin="round"
          />
          <path
            d={outline(pictures.manifold, x, yManifold)}
            fill="var(--blue)"
            stroke="var(--blue)"
            strokeWidth="1.3"
            strokeLinejoin="round"
          />
          {place && (
            <rect
              x={at(place.from) - 3}
              y={TOP}
              width={Math.max(6, at(place.to) - at(place.from) + 6)}
              height={HEIGHT}
              fill="none"
              stroke="var(--pressure)"
              strokeWidth="2"
            />
          )}
          {under !== undefined && (
            <path d={`M${at(seconds[under]!)} 0V${BOTTOM}`} stroke="var(--blue)" strokeDasharray="3 3" />
          )}
        </g>
        {times.map((t) => (
          <text
            key={t}
            x={at(t)}
            y={BOTTOM + 13}
            fontSize="10"
            fill="var(--soft)"
            textAnchor={at(t) > W - 16 ? 'end' : at(t) < LEFT + 16 ? 'start' : 'middle'}
          >
            {timeText(t, step < 1)}
          </text>
        ))}
        {ticks.map((t) => (
          <text key={t.v} x={LEFT - 5} y={scale.y(t.pa) + 3.5} fontSize="10" textAnchor="end" fill="var(--soft)">
            {t.v > 0 ? '+' : ''}
            {formatNumber(t.v, 2)}
          </text>
        ))}
        <text x={LEFT - 5} y={scale.y(0) + 3.5} fontSize="10" textAnchor="end" fontWeight="700" fill="var(--ink)">
          0
        </text>
        <text x="0" y={BELOW - 4} fontSize="10" fill="var(--soft)">
          manifold, {unitLabel(units.pressure)} absolute, to {formatNumber(fromSi('pressure', most, units.pressure), 3)}
        </text>
      </svg>
    </figure>
  )
}
