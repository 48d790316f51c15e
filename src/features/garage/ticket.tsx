'use client'
/** One build of the garage: how it is judged, its states, the can that must be looked at first. */
import { Ellipsis } from 'lucide-react'
import Link from 'next/link'
import { formatQuantity, quantityText } from '@/core/units/format'
import type { UnitChoice } from '@/core/units/units'
import { STATE_NAMES } from '@/plan/document/words'
import type { BuildSummary, CanSummary } from '@/plan/studies/summary'
import type { Waiting } from '../workspace/saving/device'
import type { Severity } from '@/plan/verdicts/verdict'
import { day } from '@/ui/dates'
import { SEVERITY_COLOUR, SeverityMark } from '@/ui/marks'
import { PopoverButton } from '@/ui/popover'

/** A build of the garage: its figures, or why there are none. */
export type ListedBuild = {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly savedAt: string
} & (
  | {
      /** left out until there is one: what is undefined does not come over to the browser */
      readonly summary?: BuildSummary | undefined
      /** it has changed since, and is being worked out */
      readonly pending: boolean
    }
  | { readonly trouble: string }
)

const counts = (severities: readonly Severity[]) =>
  (['stop', 'fix', 'watch'] as const)
    .map((s) => ({ s, n: severities.filter((x) => x === s).length }))
    .filter((x) => x.n > 0)

/** "2 changes wait on this device" */
export const changesWait = (n: number): string => `${n} ${n === 1 ? 'change waits' : 'changes wait'} on this device`

/** What can be done to a build from its ticket. */
export type TicketAction = 'name' | 'duplicate' | 'away' | 'out'

export function Ticket({
  b,
  waiting,
  onAction,
  onTag,
}: {
  b: ListedBuild
  waiting: Waiting | undefined
  onAction: (action: TicketAction) => void
  onTag: (tag: string) => void
}) {
  const summary = 'pending' in b ? b.summary : undefined
  return (
    <li className="relative grid items-center gap-x-8 gap-y-3 py-4 md:grid-cols-[minmax(0,4fr)_minmax(0,3fr)_minmax(0,5fr)_auto]">
      <div className="min-w-0">
        <h2 className="text-xl leading-tight max-md:pr-12">
          <Link
            href={`/builds/${b.id}/circuit`}
            className="underline decoration-transparent decoration-2 underline-offset-4 hover:decoration-blue"
          >
            {b.name}
          </Link>
        </h2>
        {summary && <Judged b={summary} onTag={onTag} />}
        {'pending' in b && b.summary && b.pending && (
          <p role="status" className="text-soft">
            Changed since: being worked out again…
          </p>
        )}
        {waiting && (
          <p role="alert" className="mt-1.5 font-bold text-stop">
            {changesWait(waiting.changes)}
            {waiting.look
              ? ': another device changed the same, or it does not fit. Open it to decide'
              : `: open it to save ${waiting.changes === 1 ? 'it' : 'them'}`}
          </p>
        )}
      </div>
      {'pending' in b ? (
        b.summary ? (
          <Figures id={b.id} b={b.summary} />
        ) : (
          <p role="status" className="text-soft md:col-span-2">
            Being worked out…
          </p>
        )
      ) : (
        <p data-unkept role="alert" className="border-l-4 border-stop pl-2 md:col-span-2">
          {b.trouble}
        </p>
      )}
      <div className="no-print max-md:absolute max-md:top-3 max-md:right-0">
        <PopoverButton
          name={`More to do with ${b.name}`}
          label={`More to do with ${b.name}`}
          button={<Ellipsis size={20} aria-hidden />}
          buttonClass="button-quiet"
          panelClass="w-56 p-1"
          align="end"
        >
          {(close) => <TicketMenu b={b} away={summary?.away === true} close={close} onAction={onAction} />}
        </PopoverButton>
      </div>
    </li>
  )
}

function TicketMenu({
  b,
  away,
  close,
  onAction,
}: {
  b: ListedBuild
  away: boolean
  close: () => void
  onAction: (action: TicketAction) => void
}) {
  const item = (action: TicketAction, name: string) => (
    <button
      type="button"
      className="menu-item w-full text-left hover:bg-blue-wash"
      onClick={() => {
        close()
        onAction(action)
      }}
    >
      {name}
    </button>
  )
  return (
    <>
      {item('name', 'Name and tags…')}
      {item('duplicate', 'Duplicate')}
      {item('away', away ? 'Back into the list' : 'Put away')}
      <a className="menu-item w-full hover:bg-blue-wash" href={`/api/builds/${b.id}/export`} download onClick={close}>
        Export as a file
      </a>
      {item('out', 'Take out of the garage')}
    </>
  )
}

/** What the build is, and how it is judged. */
function Judged({ b, onTag }: { b: BuildSummary; onTag: (tag: string) => void }) {
  return (
    <>
      <p className="text-soft">{b.about}</p>
      {b.tags.length > 0 && (
        <p className="flex flex-wrap gap-x-3">
          {b.tags.map((t) => (
            <button
              key={t}
              type="button"
              className="text-soft hover:text-ink"
              aria-label={`Builds tagged ${t}`}
              onClick={() => onTag(t)}
            >
              #{t}
            </button>
          ))}
        </p>
      )}
      <p>
        {b.plan}
        <span className="text-soft">{b.onCar ? ', on the car' : ', an idea'}</span>
      </p>
      <p className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
        {b.verdicts.length === 0 ? (
          <span className="flex items-center gap-1.5">
            <SeverityMark severity="ok" size={16} /> all is well
          </span>
        ) : (
          counts(b.verdicts).map(({ s, n }) => (
            <span key={s} className="flex items-center gap-1.5">
              <SeverityMark severity={s} size={16} /> {n} {s}
            </span>
          ))
        )}
      </p>
    </>
  )
}

/** What asks for the next look. */
const REASONS: Readonly<Record<CanSummary['checkReason'], string>> = {
  'first look': 'first look',
  'own interval': 'own interval',
  forecast: 'forecast',
  'ran over': 'ran over there',
}

/** When a can asks to be looked at, in a few words. */
function lookText(can: CanSummary, units: UnitChoice): string {
  if (!can.logged) return `${can.name}: not yet noted as fitted`
  if (can.left === undefined) return `${can.name}: never fills on this use`
  if (can.left <= 0) return `${can.name}: look now`
  return `${can.name}: look within ${quantityText(can.left, 'distance', units, 2)}${can.checkDate ? `, by ${day(can.checkDate)}` : ''}`
}

/** Its states, and its cans, the one that must be looked at first in full. */
function Figures({ id, b }: { id: string; b: BuildSummary }) {
  const [first, ...others] = b.cans
  const due = first?.logged && first.left !== undefined && first.left <= 0
  return (
    <>
      <div>
        <StateRow b={b} />
      </div>
      <Link href={`/builds/${id}/log`} className="block min-w-0">
        {first ? (
          <>
            <p className={`text-base font-bold ${due ? 'text-stop' : ''}`}>
              {lookText(first, b.units)}
              {first.logged && first.left !== undefined && (
                <span className="text-xs font-normal text-soft"> {REASONS[first.checkReason]}</span>
              )}
            </p>
            {first.logged && <FillBar share={first.share} />}
            {others.map((c) => (
              <p key={c.name} className="mt-1">
                {lookText(c, b.units)}
              </p>
            ))}
          </>
        ) : (
          <p className="text-soft">No bowl to empty in this circuit</p>
        )}
        {b.worst && <p className="mt-1.5 text-soft">{b.worst}</p>}
      </Link>
    </>
  )
}

/** A small mark a state: its height is the crankcase pressure, its shape the judgement. */
function StateRow({ b }: { b: BuildSummary }) {
  const y = (pa: number) => 20 - 17 * Math.cbrt(Math.max(-20000, Math.min(20000, pa)) / 20000)
  const text = (pa: number | undefined) => {
    if (pa === undefined) return 'no answer'
    const f = formatQuantity(pa, 'pressure', b.units, 2)
    return `${f.text} ${f.unit}`
  }
  return (
    <svg
      viewBox={`0 0 ${b.states.length * 42} 56`}
      className="h-14"
      role="img"
      aria-label={`Crankcase: ${b.states.map((s) => `${STATE_NAMES[s.id].toLowerCase()} ${text(s.gauge)}`).join(', ')}`}
    >
      <path d={`M0 20H${b.states.length * 42}`} stroke="var(--ink)" strokeWidth="1" />
      {b.states.map((s, i) => (
        <g key={s.id} transform={`translate(${i * 42 + 21} 0)`}>
          <title>{`${STATE_NAMES[s.id]}: ${text(s.gauge)}`}</title>
          {s.gauge !== undefined && (
            <path
              d={`M0 20V${y(s.gauge)}`}
              stroke={s.judged === 'ok' ? 'var(--vacuum)' : SEVERITY_COLOUR[s.judged]}
              strokeWidth="3"
            />
          )}
          {s.judged === 'ok' ? (
            <circle cy={y(s.gauge ?? 0)} r="4.500" fill="var(--vacuum)" />
          ) : s.judged === 'watch' ? (
            <circle cy={y(s.gauge ?? 0)} r="4.500" fill="var(--paper)" stroke="var(--watch)" strokeWidth="2.500" />
          ) : (
            <path
              transform={`translate(0 ${y(s.gauge ?? 0)})`}
              d="M-2.500-6h5L6-2.500v5L2.500 6h-5L-6 2.500v-5z"
              fill="var(--stop)"
            />
          )}
          <text y="53" textAnchor="middle" fontSize="10" fill="var(--soft)">
            {STATE_NAMES[s.id]}
          </text>
        </g>
      ))}
    </svg>
  )
}

function FillBar({ share }: { share: { low: number; mid: number; high: number } }) {
  const pct = (x: number) => Math.min(100, Math.max(0, 100 * x))
  return (
    <div className="mt-1.5 flex items-center gap-3">
      <div
        className="relative h-4 flex-1 border-[1.5px] border-ink bg-sheet"
        role="img"
        aria-label={`Likely ${Math.round(pct(share.mid))} % full, ${Math.round(pct(share.low))} to ${Math.round(pct(share.high))} %`}
      >
        <div
          className="absolute inset-y-0 left-0"
          style={{ width: `${pct(share.high)}%`, background: 'var(--oil-clean)' }}
        />
        <div
          className="absolute inset-y-0 left-0"
          style={{ width: `${pct(share.low)}%`, background: 'var(--oil-laden)' }}
        />
        <div className="absolute inset-y-[-3px] w-0.5 bg-ink" style={{ left: `${pct(share.mid)}%` }} />
      </div>
      <span className="w-28 text-soft" aria-hidden>
        {Math.round(pct(share.low))}–{Math.round(pct(share.high))} % full
      </span>
    </div>
  )
}
