'use client'
/** Drawings of a step, where words fail: how a clamp sits, the gap of a socket, a flare, a P-clamp, what is clocked, how tape runs. */
import { useRef, type ReactNode } from 'react'
import type { CardStep } from '@/plan/fit/steps/step'

const LINE = { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.6 } as const
const HOSE = { fill: 'var(--oil-clean)', stroke: 'var(--ink)', strokeWidth: 1.2 } as const
const Note = ({
  x,
  y,
  children,
  anchor = 'middle',
}: {
  x: number
  y: number
  children: string
  anchor?: 'start' | 'middle' | 'end'
}) => (
  <text x={x} y={y} textAnchor={anchor} fontSize="11" fill="var(--soft)">
    {children}
  </text>
)

/** Hose on a barb to its shoulder, the clamp behind the ridge. */
const Clamp = () => (
  <>
    <path d="M10 46h60" stroke="var(--rule-strong)" strokeDasharray="2 3" />
    <path {...LINE} d="M10 30h44v-7h8v7l14-4v8h66M10 62h44v7h8v-7l14 4v-8h66" />
    <rect {...HOSE} x="64" y="18" width="150" height="9" />
    <rect {...HOSE} x="64" y="65" width="150" height="9" />
    <rect x="92" y="12" width="13" height="68" fill="none" stroke="var(--blue)" strokeWidth="2.5" />
    <rect x="92" y="4" width="13" height="9" fill="var(--blue)" />
    <Note x={42} y={92}>
      shoulder
    </Note>
    <Note x={82} y={92}>
      ridge
    </Note>
    <Note x={128} y={92} anchor="start">
      clamp behind the ridge
    </Note>
  </>
)
/** Socket and nipple: a gap of a millimetre between the hexagons. */
const Socket = () => (
  <>
    <rect {...HOSE} x="130" y="28" width="90" height="36" />
    <rect {...LINE} x="78" y="20" width="60" height="52" />
    <rect {...LINE} x="30" y="24" width="44" height="44" />
    <path d="M76 10v72" stroke="var(--blue)" strokeWidth="2.5" />
    <path {...LINE} d="M30 34H8M30 58H8" />
    <path d="M138 78l10 10" stroke="var(--blue)" strokeWidth="1.5" />
    <Note x={76} y={96}>
      1 mm
    </Note>
    <Note x={152} y={92} anchor="start">
      mark here
    </Note>
    <Note x={108} y={14}>
      socket
    </Note>
  </>
)
/** Cone to cone, nothing between; tight by hand, then by figure. */
const Flare = () => (
  <>
    <path {...LINE} d="M10 28h70l26 14v8l-26 14H10" />
    <path {...LINE} d="M220 22h-66l-40 18v12l40 18h66" />
    <path d="M92 22v52" stroke="var(--blue)" strokeDasharray="3 3" />
    <Note x={110} y={92}>
      dry cone on cone, oil on the thread alone
    </Note>
    <Note x={52} y={20}>
      37°
    </Note>
  </>
)
/** Snug: the rubber just bulges at both sides. */
const PClamp = () => (
  <>
    <circle {...HOSE} cx="70" cy="46" r="24" />
    <path d="M70 16a30 30 0 1 0 26 46l54 0v-14h-46" fill="none" stroke="var(--ink)" strokeWidth="5" />
    <path d="M44 28q-5 18 0 36" fill="none" stroke="var(--blue)" strokeWidth="2.5" />
    <circle {...LINE} cx="134" cy="55" r="6" />
    <Note x={112} y={92}>
      snug: the rubber just bulges
    </Note>
  </>
)
/** Tape on a taper thread, the first thread bare. */
const Tape = () => (
  <>
    <path {...LINE} d="M40 26l90-6v52l-90-6z" />
    <path d="M62 24l-4 44M76 23l-4 46M90 22l-4 48M104 21l-4 50" stroke="var(--blue)" strokeWidth="3" />
    <rect {...LINE} x="130" y="14" width="40" height="64" />
    <path d="M20 30a20 18 0 0 1 0 32m6-6l-6 6-7-4" fill="none" stroke="var(--ink)" strokeWidth="1.6" />
    <Note x={46} y={92}>
      first thread bare
    </Note>
    <Note x={146} y={92} anchor="start">
      clockwise, seen from the end
    </Note>
  </>
)
/** What one end is turned to the other, seen along the hose. */
function Clocking({ deg }: { deg: number }) {
  const a = ((deg - 90) * Math.PI) / 180
  return (
    <>
      <circle {...HOSE} cx="70" cy="48" r="14" />
      <path d="M70 34V8" stroke="var(--ink)" strokeWidth="5" />
      <path
        d={`M${70 + 14 * Math.cos(a)} ${48 + 14 * Math.sin(a)}L${70 + 40 * Math.cos(a)} ${48 + 40 * Math.sin(a)}`}
        stroke="var(--blue)"
        strokeWidth="5"
      />
      <Note x={128} y={20} anchor="start">
        near end straight up
      </Note>
      <Note x={128} y={40} anchor="start">{`far end ${deg}° on, clockwise`}</Note>
      <Note x={128} y={60} anchor="start">
        a gap of 1 mm at each socket
      </Note>
    </>
  )
}

const DRAWINGS: Readonly<Record<NonNullable<CardStep['drawing']>, (step: CardStep) => ReactNode>> = {
  clamp: () => <Clamp />,
  socket: () => <Socket />,
  flare: () => <Flare />,
  'p-clamp': () => <PClamp />,
  tape: () => <Tape />,
  clocking: (step) => <Clocking deg={step.clockingDeg ?? 0} />,
}

/** In its step as wide as the row; pressed, as large as the screen, along its longer side. */
export function StepDrawing({ step, onPaper }: { step: CardStep; onPaper: boolean }) {
  const large = useRef<HTMLDialogElement>(null)
  if (!step.drawing) return null
  const drawing = (
    <svg viewBox="0 0 320 100" className="block w-full" role="img" aria-label={`Drawing: ${step.drawing}`}>
      {DRAWINGS[step.drawing](step)}
    </svg>
  )
  return (
    <div className={onPaper ? '' : 'print:hidden'}>
      <button
        type="button"
        aria-label={`Drawing large: ${step.drawing}`}
        className="my-1 block w-full max-w-[22rem] max-sm:-ml-14 max-sm:w-[calc(100%+3.5rem)] max-sm:max-w-none"
        onClick={() => large.current?.showModal()}
      >
        {drawing}
      </button>
      <dialog ref={large} aria-label={`Drawing: ${step.drawing}`} className="large-drawing">
        <button type="button" aria-label="Shut the drawing" onClick={() => large.current?.close()}>
          {drawing}
        </button>
      </dialog>
    </div>
  )
}
