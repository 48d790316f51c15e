'use client'
/** The pressure ladder: height is gauge pressure, gas runs downhill. */
import { useMemo } from 'react'
import { formatNumber } from '@/core/units/format'
import { fromSi, toSi, unitLabel } from '@/core/units/units'
import type { StateResult } from '@/plan/model/results'
import { activeVariant } from '@/plan/edit/edit'
import { STATE_NAMES } from '@/plan/document/words'
import type { FigureRef } from '@/plan/explain/figures'
import { WorkingLabel } from '../workspace/figures/working-popover'
import { useShown, useUnits, useWorkspace } from '../workspace/store'
import { LABEL_SIZE } from '@/ui/labels'
import { useGlide } from './glide'
import { jointsOf, type Joint } from './joints'
import {
  columnsOf,
  curve,
  glyphAt,
  halfOf,
  LADDER,
  ladderScale,
  placeLadder,
  ROW_HEIGHT,
  type LadderLabel,
} from './ladder-layout'
import type { Point2 } from './layout'
import { flowWidth, gasColour, isShut } from './look'
import { RunningGas } from './running-gas'
import { WayGlyph } from './way-glyph'

const { leastWidth: LEAST_W, height: H, left: LEFT, top: TOP, bottom: BOTTOM } = LADDER
const EMPTY: Readonly<Record<string, number>> = {}

/** One scale for all states, so that only the parts move. */
export const useLadderScale = (states: readonly StateResult[], top = TOP, bottom = H - BOTTOM) =>
  useMemo(() => ladderScale(states, top, bottom), [states, top, bottom])

const gaugeOf = (s: StateResult) => (s.solved ? s.gauge : EMPTY)

export function Ladder() {
  const build = useWorkspace((s) => s.build)
  const states = useWorkspace((s) => s.analysis.states)
  const selected = useWorkspace((s) => s.selected)
  const select = useWorkspace((s) => s.select)
  const units = useUnits()
  const shown = useShown()
  const { joints, ways } = useMemo(() => jointsOf(activeVariant(build)), [build])
  const { scale, low, high } = useLadderScale(states)
  const columns = useMemo(() => columnsOf(joints, ways, LEFT, LEAST_W), [joints, ways])
  const W = columns.width
  const passages = shown.solved ? shown.passages : undefined
  const target = gaugeOf(shown)
  // texts are placed once a state; on the way to it they move with what they name
  const { glyphs, labels, names } = useMemo(
    () =>
      placeLadder(joints, ways, columns, {
        y: (joint) => scale(target[joint] ?? 0),
        prefersAbove: (j) => labelAbove(j, joints, ways, target),
        half: (w) => (isShut(passages?.[w.id]) ? 1.5 : flowWidth(passages![w.id]!.flow) / 2 + 1),
        isShut: (w) => isShut(passages?.[w.id]),
      }),
    [joints, ways, columns, scale, target, passages],
  )
  const gauges = useGlide(target, shown.id)
  const pointOf = (joint: string): Point2 => [columns.x.get(joint)!, scale(gauges[joint] ?? 0)]
  const crankcase = activeVariant(build).parts.find((p) => p.kind === 'crankcase')?.id
  const overCycle = shown.solved && shown.cycle !== undefined
  const ticks = [0.1, 0.3, 1, 3, 10, 30, 100, 300]
    .flatMap((v) => [v, -v])
    .map((v) => ({ v, pa: toSi('pressure', v, units.pressure) }))
    .filter((t) => t.pa <= high * 1.2 && t.pa >= low * 1.2 && Math.abs(scale(t.pa) - scale(0)) > 13)

  return (
    <figure className="flex min-h-0 flex-col">
      <figcaption className="flex items-baseline justify-between gap-2 px-1">
        <span className="head">{overCycle ? 'The pistons push it, on the mean of a turn' : 'Gas runs downhill'}</span>
        <span className="text-xs text-soft">height is gauge pressure, {unitLabel(units.pressure)}</span>
      </figcaption>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="min-h-0 w-full flex-1"
        role="group"
        aria-label={`Pressure ladder in ${STATE_NAMES[shown.id].toLowerCase()}: ${shown.solved ? joints.map((j) => `${j.label} ${formatNumber(fromSi('pressure', shown.gauge[j.id] ?? 0, units.pressure), 2)}`).join(', ') : 'no answer'}`}
      >
        <rect x={LEFT} y={TOP - 14} width={W - LEFT} height={scale(0) - TOP + 14} fill="var(--pressure-wash)" />
        <rect x={LEFT} y={scale(0)} width={W - LEFT} height={H - BOTTOM + 26 - scale(0)} fill="var(--vacuum-wash)" />
        {ticks.map((t) => (
          <g key={t.v}>
            <path
              d={`M${LEFT} ${scale(t.pa)}H${W}`}
              stroke="var(--rule-strong)"
              strokeWidth="0.6"
              strokeDasharray="1 4"
            />
            <text x={LEFT - 6} y={scale(t.pa) + 3.5} textAnchor="end" fontSize="10" fill="var(--soft)">
              {t.v > 0 ? '+' : ''}
              {formatNumber(t.v, 2)}
            </text>
          </g>
        ))}
        <path d={`M${LEFT} ${scale(0)}H${W}`} stroke="var(--ink)" strokeWidth="1.4" />
        <text x={LEFT - 6} y={scale(0) + 3.5} textAnchor="end" fontSize="10" fontWeight="700" fill="var(--ink)">
          0
        </text>
        <text x={LEFT + 6} y={TOP - 2} fontSize="10" fontWeight="700" fill="var(--pressure)">
          pressure
        </text>
        <text x={LEFT + 6} y={H - BOTTOM + 20} fontSize="10" fontWeight="700" fill="var(--vacuum)">
          vacuum
        </text>

        {passages &&
          ways.map((w) => {
            const p = passages[w.id]
            const [from, to] = [pointOf(w.from), pointOf(w.to)]
            const [[x1, y1], [x2, y2]] = [from, to]
            const d = curve(from, to)
            const chosen = selected?.id === w.id
            const shut = isShut(p)
            const spot = glyphs.get(w.id)
            const [mx, my] = spot ? glyphAt(from, to, spot) : [0, 0]
            const name = names.get(w.id)
            return (
              <g
                key={w.id}
                onClick={() => select({ kind: w.kind === 'hose' ? 'line' : 'part', id: w.id })}
                className="cursor-pointer"
              >
                <path d={d} fill="none" stroke="transparent" strokeWidth="22" />
                {shut ? (
                  <path d={d} fill="none" stroke="var(--rule-strong)" strokeWidth="2.5" strokeDasharray="2 5" />
                ) : (
                  <>
                    <path
                      d={d}
                      fill="none"
                      stroke={chosen ? 'var(--blue)' : 'var(--ink)'}
                      strokeWidth={flowWidth(p!.flow) + (chosen ? 6 : 2)}
                    />
                    <path d={d} fill="none" stroke={gasColour(p!)} strokeWidth={flowWidth(p!.flow)} />
                    <RunningGas d={d} passage={p!} />
                  </>
                )}
                {name && <Words of={name} at={[mx, my]} />}
                {w.kind !== 'hose' && w.kind !== 'passage' && (
                  <WayGlyph
                    kind={w.kind}
                    x={mx}
                    y={my}
                    shut={shut}
                    angle={(Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI + (p && p.flow < 0 ? 180 : 0)}
                    chosen={chosen}
                  />
                )}
                <title>{w.name}</title>
              </g>
            )
          })}

        {joints.map((j) => (
          <JointBlock
            key={j.id}
            joint={j}
            at={pointOf(j.id)}
            gauge={gaugeOf(shown)[j.id]}
            label={labels.get(j.id)}
            text={
              gaugeOf(shown)[j.id] === undefined
                ? ''
                : signed(fromSi('pressure', gaugeOf(shown)[j.id]!, units.pressure))
            }
            of={
              j.part === crankcase
                ? { kind: 'crankcase', state: shown.id }
                : { kind: 'gauge', id: j.id, state: shown.id }
            }
            onClick={() => select({ kind: 'part', id: j.part })}
          />
        ))}
        {!shown.solved && (
          <text x={W / 2} y={H / 2} textAnchor="middle" fontSize="14" fill="var(--stop)">
            No answer in this state; see the verdicts
          </text>
        )}
      </svg>
    </figure>
  )
}

const signed = (v: number) =>
  (v > 0 && formatNumber(v, 2) !== '0' && /[1-9]/.test(formatNumber(v, 2)) ? '+' : '') + formatNumber(v, 2)

/** A label goes on the side where its lines do not. */
function labelAbove(
  joint: Joint,
  joints: readonly Joint[],
  ways: ReturnType<typeof jointsOf>['ways'],
  gauges: Readonly<Record<string, number>>,
): boolean {
  const mine = gauges[joint.id] ?? 0
  const others = ways
    .flatMap((w) => (w.from === joint.id ? [w.to] : w.to === joint.id ? [w.from] : []))
    .map((id) => gauges[id] ?? 0)
  const up = others.filter((g) => g > mine + 1).length
  const down = others.filter((g) => g < mine - 1).length
  if (up !== down) return up < down
  return joints.indexOf(joint) % 2 === 0
}

function JointBlock({
  joint,
  at: [x, y],
  gauge,
  label,
  text,
  of,
  onClick,
}: {
  joint: Joint
  at: Point2
  gauge: number | undefined
  label: LadderLabel | undefined
  text: string
  /** the figure that its label tells */
  of: FigureRef
  onClick: () => void
}) {
  const colour =
    gauge === undefined || Math.abs(gauge) < 20 ? 'var(--soft)' : gauge > 0 ? 'var(--pressure)' : 'var(--vacuum)'
  // a valve's or can's two ends are named by what stands between them
  if (joint.through)
    return (
      <g onClick={onClick} className="cursor-pointer">
        <circle cx={x} cy={y} r="5" fill="var(--sheet)" stroke={colour} strokeWidth="2.4" />
        <title>{`${joint.label} ${text}`}</title>
      </g>
    )
  const half = halfOf(joint)
  return (
    <g onClick={onClick} className="cursor-pointer">
      <rect
        x={x - half}
        y={y - 10}
        width={half * 2}
        height="20"
        rx={joint.boundary ? 10 : 3}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <path d={`M${x - half + 6} ${y}H${x + half - 6}`} stroke={colour} strokeWidth="3" />
      {label && (
        <>
          <Words of={label} at={[x, y]} />
          <WorkingLabel of={of} digits={2} label={`${joint.label}, ${text}: the working`}>
            <text
              x={x + label.dx}
              y={y + label.dy + label.rows.length * ROW_HEIGHT}
              textAnchor="middle"
              fontSize={LABEL_SIZE}
              fontWeight="700"
              fill={colour}
              className="paint-halo"
            >
              {text}
            </text>
          </WorkingLabel>
        </>
      )}
    </g>
  )
}

/** Rows of text beside what stands at a point, with a leader where they stand apart. */
function Words({ of: { dx, dy, rows, leader }, at: [x, y] }: { of: LadderLabel; at: Point2 }) {
  return (
    <g textAnchor="middle" fontSize={LABEL_SIZE} fill="var(--ink)">
      {leader && (
        <path
          d={`M${x + leader[0][0]} ${y + leader[0][1]}L${x + leader[1][0]} ${y + leader[1][1]}`}
          stroke="var(--soft)"
          strokeWidth="0.8"
        />
      )}
      {rows.map((row, i) => (
        <text key={row} x={x + dx} y={y + dy + i * ROW_HEIGHT} className="paint-halo">
          {row}
        </text>
      ))}
    </g>
  )
}
