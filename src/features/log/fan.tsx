'use client'
/** What a can holds since it was last empty, as a fan that opens with the road: likely, and the band of four in five. */
import { quantityText } from '@/core/units/format'
import type { CanForecast } from '@/plan/model/results'
import { useUnits } from '../workspace/store'

const [W, H, LEFT, BASE, TOP] = [460, 150, 6, 122, 14]
/** How far past the likely filling it reaches. */
const PAST = 1.15

export function Fan({ can }: { can: CanForecast }) {
  const units = useUnits()
  const since = can.emptyAt === undefined ? 0 : can.odometerNow - can.emptyAt
  if (!Number.isFinite(can.distance.mid) || !(can.distance.mid > 0)) return null
  // from empty; or from what it held when it was last looked into
  const from = can.look && can.emptyAt !== undefined ? can.look.at - can.emptyAt : 0
  const held = can.look ? can.look.held / can.bowlM3 : 0
  const far = Math.max(since, from + can.distance.mid * (1 - held) * PAST)
  const x = (m: number) => LEFT + ((W - 2 * LEFT) * m) / far
  const y = (share: number) => BASE - (BASE - TOP) * Math.min(1.1, share)
  // straight from empty to full; beyond the full line it has run over
  const ray = (d: number) => {
    const end = Math.min(far, from + (1.1 - held) * d)
    return [x(end), y(held + (end - from) / d)] as const
  }
  const [soon, likely, late] = [ray(can.distance.low), ray(can.distance.mid), ray(can.distance.high)]
  const road = (m: number) => quantityText(m, 'distance', units, 2)
  const says = `Full after ${road(can.distance.low)} to ${road(can.distance.high)}, likely ${road(can.distance.mid)}`
  // the band between the heaviest and the lightest case, cut off where it has run over
  const top = `${x(far)} ${y(1.1)}`
  const band = [
    `M${x(from)} ${y(held)}L${soon[0]} ${soon[1]}`,
    ...(soon[0] < x(far) ? [top] : []),
    late[0] < x(far) ? top : `${x(far)} ${late[1]}`,
    `${late[0]} ${late[1]}Z`,
  ].join('L')
  return (
    <figure>
      <figcaption className="flex flex-wrap items-baseline justify-between gap-x-3 border-b-[1.5px] border-ink pb-1">
        <span className="head">{can.name}, since last empty</span>
        <span className="text-xs text-soft">share of its bowl over the road</span>
      </figcaption>
      <svg viewBox={`0 0 ${W} ${H}`} className="w-full" role="img" aria-label={`${says}; driven since ${road(since)}`}>
        <path d={band} fill="var(--oil-clean)" opacity="0.8" />
        <path d={`M${x(from)} ${y(held)}L${likely[0]} ${likely[1]}`} stroke="var(--oil-laden)" strokeWidth="2.5" />
        <path d={`M${LEFT} ${BASE}H${W - LEFT}`} stroke="var(--rule-strong)" />
        <path d={`M${LEFT} ${y(1)}H${W - LEFT}`} stroke="var(--pressure)" strokeDasharray="6 3" />
        <text x={LEFT + 2} y={y(1) - 4} fontSize="11" fill="var(--soft)">
          full
        </text>
        {can.look && (
          <>
            <path d={`M${x(0)} ${BASE}L${x(from)} ${y(held)}`} stroke="var(--oil-laden)" strokeDasharray="3 3" />
            <circle cx={x(from)} cy={y(held)} r="4" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.5" />
          </>
        )}
        {since > 0 && (
          <>
            <path d={`M${x(since)} ${BASE}V${TOP}`} stroke="var(--ink)" strokeWidth="1.5" />
            <text
              x={x(since) + (since > 0.8 * far ? -4 : 4)}
              y={BASE - 6}
              textAnchor={since > 0.8 * far ? 'end' : 'start'}
              fontSize="11"
              fontWeight="700"
              fill="var(--ink)"
            >
              now
            </text>
          </>
        )}
        {[0, 0.5, 1].map((t) => (
          <text
            key={t}
            x={x(far * t)}
            y={H - 10}
            textAnchor={t === 0 ? 'start' : t === 1 ? 'end' : 'middle'}
            fontSize="11"
            fill="var(--soft)"
          >
            {road(far * t)}
          </text>
        ))}
      </svg>
    </figure>
  )
}
