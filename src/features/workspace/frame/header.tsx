'use client'
/** The head of the work order: whose build, which station, units, undo, how saving stands. */
import { Brand } from '@/ui/brand'
import { ChevronDown, Command, Download, History, Redo2, Ruler, Undo2 } from 'lucide-react'
import Link from 'next/link'
import { usePathname } from 'next/navigation'
import type { UnitChoice } from '@/core/units/units'
import { fittedPlan } from '@/plan/document/fitted-plan'
import { setField } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { planName } from '@/plan/schools/schools'
import { unitLabel } from '@/core/units/units'
import { useThisDevice } from '@/ui/device'
import { PopoverButton } from '@/ui/popover'
import { ThemeButton } from '@/ui/theme'
import { OthersHere } from '../live/others-here'
import { STATIONS } from './stations'
import { carMark } from '../on-car'
import { useWorkspace, useWorkspaceStore } from '../store'

/** What a device may do that may not do all; nothing at the bench. */
function OwnRights() {
  const rights = useThisDevice()?.rights ?? 'all'
  if (rights === 'all') return null
  return <span className="text-xs text-soft">{rights === 'log' ? 'Ticks and logs' : 'Looks only'}</span>
}

/** How saving stands, always in view; a failure says what is kept and where. */
function SaveNote() {
  const save = useWorkspace((s) => s.save)
  const waiting = useWorkspace((s) => s.pending.length)
  const text = {
    saved: 'Saved',
    waiting: 'Saving…',
    clash: 'Changed elsewhere',
    refused: `Not saved, ${waiting} waiting`,
    failed: `Not saved, ${waiting} waiting`,
  }[save.kind]
  const bad = save.kind !== 'saved' && save.kind !== 'waiting'
  return (
    <span
      role="status"
      className={`text-right text-xs ${bad ? 'font-bold text-stop' : 'hidden text-soft xl:block'}`}
      title={save.kind === 'failed' ? save.message : undefined}
    >
      {text}
      {save.kind === 'failed' && <span className="sr-only">. {save.message}</span>}
    </span>
  )
}

export function useHistory() {
  const store = useWorkspaceStore()
  const past = useWorkspace((s) => s.past.at(-1))
  const future = useWorkspace((s) => s.future.at(-1))
  return {
    /** what undo would take back, and redo make again */
    undoes: past?.name,
    redoes: future?.name,
    canUndo: past !== undefined,
    canRedo: future !== undefined,
    undo: () => store.getState().undo(),
    redo: () => store.getState().redo(),
  }
}

export function useSetUnits() {
  const act = useWorkspace((s) => s.act)
  const units = useWorkspace((s) => s.build.units)
  return (change: Partial<UnitChoice>) =>
    act(
      setField(
        ['units'],
        change.system && change.system !== units.system
          ? {
              pressure: change.system === 'metric' ? 'kPa' : 'inHg',
              flow: change.system === 'metric' ? 'l/min' : 'cfm',
              ...change,
            }
          : { ...units, ...change },
      ),
      'Units',
    )
}

function UnitsMenu() {
  const units = useWorkspace((s) => s.build.units)
  const set = useSetUnits()
  const group = <K extends keyof UnitChoice>(key: K, label: string, options: readonly UnitChoice[K][]) => (
    <fieldset>
      <legend className="px-3 pt-2 text-xs text-soft">{label}</legend>
      {options.map((o) => (
        <label key={o} className="menu-item has-focus-visible:outline-2 has-focus-visible:outline-blue">
          <input
            type="radio"
            name={`units-${key}`}
            className="size-4"
            checked={units[key] === o}
            onChange={() => set({ [key]: o } as Partial<UnitChoice>)}
          />
          {unitLabel(o)}
        </label>
      ))}
    </fieldset>
  )
  return (
    <PopoverButton
      label="Units"
      name="Units"
      button={<Ruler size={18} aria-hidden />}
      buttonClass="button-quiet"
      panelClass="grid grid-cols-3 p-1"
      align="end"
    >
      {() => (
        <>
          {group('system', 'Sizes', ['metric', 'imperial'])}
          {group('pressure', 'Pressure', ['kPa', 'inHg', 'inH2O', 'psi'])}
          {group('flow', 'Flow', ['l/min', 'cfm'])}
        </>
      )}
    </PopoverButton>
  )
}

export function Header({
  onPalette,
  onRevisions,
  onPlans,
}: {
  onPalette: () => void
  onRevisions: () => void
  onPlans: () => void
}) {
  const id = useWorkspace((s) => s.id)
  const name = useWorkspace((s) => s.build.name)
  const about = useWorkspace((s) => s.build.about)
  const plan = useWorkspace((s) => activeVariant(s.build))
  const engine = useWorkspace((s) => s.build.engine)
  const fitted = useWorkspace((s) => fittedPlan(s.build))
  const variant = planName(plan, engine)
  const mark = carMark(plan, fitted)
  const here = usePathname()
  const history = useHistory()
  return (
    <header className="no-print flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-rule px-4 py-1 lg:min-h-[3.25rem]">
      <Brand />
      <div className="min-w-0 leading-tight max-sm:order-1 max-sm:flex max-sm:w-full max-sm:flex-wrap max-sm:items-center max-sm:gap-x-3 sm:max-w-[21rem] 2xl:max-w-md">
        <div className="flex min-w-0 items-baseline gap-3">
          <h1 className="text-base whitespace-nowrap" title={about}>
            {name}
          </h1>
          <OthersHere />
        </div>
        {/* whole, in as many rows as it needs */}
        <button
          type="button"
          className="flex min-h-11 items-center gap-1 text-left text-soft hover:text-ink sm:min-h-7 pointer-coarse:min-h-12"
          onClick={onPlans}
          aria-label={`Plan: ${variant}${mark ? `, ${mark}` : ''}. Choose, add or compare plans`}
        >
          <span className="border-b border-rule-strong font-bold">{variant}</span>
          {mark && <span className="shrink-0 text-xs whitespace-nowrap">{mark}</span>}
          <ChevronDown size={16} aria-hidden className="shrink-0" />
        </button>
      </div>
      <nav aria-label="Stations" className="order-last w-full sm:order-none sm:ml-auto sm:w-auto">
        <ol className="flex justify-between sm:justify-start">
          {STATIONS.map((s, i) => {
            const on = here.endsWith(`/${s.key}`)
            return (
              <li key={s.key} className="flex items-center">
                {i > 0 && <span aria-hidden className="hidden h-px w-2 bg-rule-strong 2xl:block" />}
                <Link
                  href={`/builds/${id}/${s.key}`}
                  prefetch={false}
                  aria-current={on ? 'page' : undefined}
                  className={`flex min-h-11 items-center gap-1 px-1 pointer-coarse:min-h-12 ${on ? 'font-bold text-blue' : 'text-soft hover:text-ink'}`}
                >
                  <span
                    aria-hidden
                    className={`hidden size-6 place-items-center sm:grid rounded-full border-[1.5px] text-xs font-bold ${on ? 'border-blue bg-blue text-on-blue' : 'border-rule-strong'}`}
                  >
                    {i + 1}
                  </span>
                  {s.name}
                </Link>
              </li>
            )
          })}
        </ol>
      </nav>
      <div className="no-print ml-auto flex items-center sm:ml-0">
        <OwnRights />
        <SaveNote />
        <button
          type="button"
          className="button-quiet"
          onClick={history.undo}
          disabled={!history.canUndo}
          aria-label="Undo"
          title={history.undoes === undefined ? 'Undo (Ctrl+Z)' : `Undo: ${history.undoes} (Ctrl+Z)`}
        >
          <Undo2 size={18} aria-hidden />
        </button>
        <button
          type="button"
          className="button-quiet"
          onClick={history.redo}
          disabled={!history.canRedo}
          aria-label="Redo"
          title={history.redoes === undefined ? 'Redo (Ctrl+Shift+Z)' : `Redo: ${history.redoes} (Ctrl+Shift+Z)`}
        >
          <Redo2 size={18} aria-hidden />
        </button>
        <span className="hidden items-center sm:flex">
          <UnitsMenu />
          <button
            type="button"
            className="button-quiet"
            onClick={onRevisions}
            aria-label="Earlier versions"
            title="Earlier versions"
          >
            <History size={18} aria-hidden />
          </button>
          <a
            className="button-quiet"
            href={`/api/builds/${id}/export`}
            aria-label="Export as a file"
            title="Export as a file"
            download
          >
            <Download size={18} aria-hidden />
          </a>
        </span>
        <button
          type="button"
          className="button-quiet"
          onClick={onPalette}
          aria-label="All commands"
          title="All commands (Ctrl+K)"
        >
          <Command size={18} aria-hidden />
        </button>
        <ThemeButton />
      </div>
    </header>
  )
}
