/** The engine behind the schematic, cut open: sump, crank, banks, covers, and where its air comes from. */
import type { Engine } from '@/plan/document/schema'
import { BANK, CRANK, plenumX } from './layout'

function Bank({ lean }: { lean: number }) {
  const long = lean === 0
  const top = long ? -158 : -132
  return (
    <g transform={`translate(${CRANK[0]} ${CRANK[1]}) rotate(${lean})`}>
      <path d={`M-46 ${-22}V${top + 44}H46V-22`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      {/* bore, piston, rod */}
      <path d={`M-27 ${top + 44}V-40M27 ${top + 44}V-40`} stroke="var(--rule-strong)" strokeWidth="1.4" />
      <rect
        x="-26"
        y={top + 62}
        width="52"
        height="24"
        rx="3"
        fill="var(--well)"
        stroke="var(--rule-strong)"
        strokeWidth="1.4"
      />
      <path d={`M-26 ${top + 69}h52`} stroke="var(--rule-strong)" />
      <path d={`M0 ${top + 76}L8 -8`} stroke="var(--rule-strong)" strokeWidth="5" strokeLinecap="round" />
      {/* head and cam cover */}
      <rect x="-52" y={top + 20} width="104" height="24" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      <path
        d={`M-48 ${top + 20}v-8q0-12 12-12h72q12 0 12 12v8z`}
        fill="var(--well)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {/* drain passages */}
      <path
        d={`M-40 ${top + 18}V-24M40 ${top + 18}V-24`}
        stroke="var(--oil-laden)"
        strokeWidth="2"
        strokeDasharray="2 4"
        opacity="0.7"
      />
    </g>
  )
}

export function EnginePicture({ engine }: { engine: Engine }) {
  const lean = BANK[engine.layout]
  const manifoldX = plenumX(engine)
  return (
    <g aria-hidden>
      {/* intake: filter, pipe, compressor or blower, charge pipe, throttle, plenum */}
      <path
        d={`M42 262V${engine.induction === 'turbo' ? 300 : 384}${engine.induction === 'turbo' ? '' : `H${manifoldX}V226`}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="15"
      />
      <path
        d={`M42 262V${engine.induction === 'turbo' ? 300 : 384}${engine.induction === 'turbo' ? '' : `H${manifoldX}V226`}`}
        fill="none"
        stroke="var(--well)"
        strokeWidth="12"
      />
      {engine.induction === 'turbo' && (
        <>
          <path d={`M58 326V384H${manifoldX}V226`} fill="none" stroke="var(--ink)" strokeWidth="13" />
          <path d={`M58 326V384H${manifoldX}V226`} fill="none" stroke="var(--well)" strokeWidth="10" />
          <circle cx="48" cy="312" r="25" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
          <path
            d="M48 312m0-13a13 13 0 1 1-13 13a18 18 0 0 1 13-17"
            fill="none"
            stroke="var(--rule-strong)"
            strokeWidth="3"
          />
          <circle cx="48" cy="312" r="5" fill="var(--ink)" />
        </>
      )}
      {engine.induction === 'super' && (
        <g transform={`translate(${manifoldX} 268)`}>
          <rect
            x="-24"
            y="-17"
            width="48"
            height="34"
            rx="16"
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
          <path
            d="M-16-6c8 4 8 8 0 12M16-6c-8 4-8 8 0 12M-6 8c2-8 10-8 12 0"
            fill="none"
            stroke="var(--rule-strong)"
            strokeWidth="3"
          />
        </g>
      )}
      {/* throttle */}
      <g transform={`translate(${manifoldX} ${engine.induction === 'super' ? 322 : 296})`}>
        <circle r="11" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
        <path d="M-8 5 8-5" stroke="var(--ink)" strokeWidth="2" />
      </g>
      {/* filter box and plenum */}
      <rect x="14" y="222" width="56" height="40" rx="3" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      <path d="M20 254l7-24 7 24 7-24 7 24 7-24 7 24" fill="none" stroke="var(--rule-strong)" strokeWidth="1.5" />
      <path
        d={`M${manifoldX - 38} 186q0-8 8-8h60q8 0 8 8v34q0 8-8 8h-60q-8 0-8-8z`}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      {engine.layout === 'inline' &&
        [188, 202, 216].map((y) => (
          <path key={y} d={`M${manifoldX - 38} ${y}H282`} stroke="var(--rule-strong)" strokeWidth="5" />
        ))}
      {/* sump with its oil, crankcase, crank */}
      <path d="M166 328h128l-12 44q-2 6-8 6h-88q-6 0-8-6z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      <path d="M174.500 358h111l-4 14q-2 4-7 4h-89q-5 0-7-4z" fill="var(--oil-clean)" opacity="0.75" />
      {lean === 0 ? (
        <Bank lean={0} />
      ) : (
        <>
          <Bank lean={-lean} />
          <Bank lean={lean} />
        </>
      )}
      <circle cx={CRANK[0]} cy={CRANK[1]} r="27" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      <circle cx={CRANK[0]} cy={CRANK[1]} r="7" fill="var(--ink)" />
      <circle cx={CRANK[0] + 8} cy={CRANK[1] - 12} r="5" fill="var(--rule-strong)" />
    </g>
  )
}
