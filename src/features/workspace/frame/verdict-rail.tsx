'use client'
/** What is wrong or risky now, worst first, with its number, why it matters, a jump and a fix. */
import Link from 'next/link'
import { usePathname, useRouter } from 'next/navigation'
import type { Verdict } from '@/plan/verdicts/verdict'
import { SeverityMark } from '@/ui/marks'
import { useMedia } from '@/ui/media'
import { fixIn, useUnits, useWorkspace } from '../store'
import { Turns } from '../jobs/turns'
import { figureOfVerdict } from '../figures/verdict-figure'
import { STATIONS } from './stations'
import { WorkingButton } from '../figures/working-popover'

const plural = (n: number, word: string) => `${n} ${word}`

export function countVerdicts(verdicts: readonly Pick<Verdict, 'severity'>[]): string {
  const n = (s: Verdict['severity']) => verdicts.filter((v) => v.severity === s).length
  return (
    [
      n('stop') && plural(n('stop'), 'stop'),
      n('fix') && plural(n('fix'), 'fix'),
      n('watch') && plural(n('watch'), 'watch'),
    ]
      .filter(Boolean)
      .join(' · ') || 'all is well'
  )
}

/** What a station brings in late grows above the verdicts for about so long after a page is opened, ms. */
const GROWS_MS = 5000
/** Keeps the verdicts in view while what stands above them still grows, until something else is touched. */
function keepVerdictsInView(): void {
  const target = document.getElementById('verdicts')
  if (!target) return
  const end = new AbortController()
  const observer = new ResizeObserver(() => target.scrollIntoView())
  end.signal.addEventListener('abort', () => observer.disconnect())
  for (const event of ['pointerdown', 'wheel', 'touchstart', 'keydown'])
    addEventListener(event, () => end.abort(), { signal: end.signal, passive: true })
  setTimeout(() => end.abort(), GROWS_MS)
  observer.observe(document.body)
}

/** On a phone: down to the verdicts at one tap, with how many there are. */
export function VerdictsLink() {
  const verdicts = useWorkspace((s) => s.analysis.verdicts)
  return (
    <div className="lg:hidden">
      <a
        href="#verdicts"
        onClick={keepVerdictsInView}
        className="flex min-h-11 items-center justify-between border-b border-rule px-4"
      >
        <span className="font-bold text-blue">Verdicts</span>
        <span className="text-soft">{countVerdicts(verdicts)}</span>
      </a>
      <Refusal at="phone" />
    </div>
  )
}

/** As wide as verdicts stand beside the station. */
const WIDE = '(min-width: 64rem)'

/** Why the last edit was not made: above the verdicts at the bench, below the states where the verdicts are out of view. */
function Refusal({ at }: { at: 'bench' | 'phone' }) {
  const refusal = useWorkspace((s) => s.refusal)
  const wide = useMedia(WIDE, true)
  if (refusal === undefined || wide !== (at === 'bench')) return null
  return (
    <p role="alert" className={`border-l-4 border-stop pl-2 ${at === 'bench' ? 'mt-3' : 'py-1'}`}>
      {refusal}
    </p>
  )
}

/** With fewer to mend than this there is room for what is in order. */
const FEW = 3

export function VerdictRail() {
  const verdicts = useWorkspace((s) => s.analysis.verdicts)
  const here = usePathname()
  const id = useWorkspace((s) => s.id)
  const open = verdicts.filter((v) => v.severity !== 'ok')
  const good = verdicts.filter((v) => v.severity === 'ok')
  const station = STATIONS.find((s) => here.endsWith(`/${s.key}`))
  // where there is no station, as beside a comparison, all of them stand open
  const ofHere = station ? open.filter((v) => v.at.station === station.key) : open
  const elsewhere = STATIONS.filter((s) => station && s !== station)
    .map((s) => ({ ...s, verdicts: open.filter((v) => v.at.station === s.key) }))
    .filter((s) => s.verdicts.length > 0)
  return (
    <section
      aria-label="Verdicts"
      id="verdicts"
      className="scroll-mt-28 print-flow flex min-h-0 flex-col bg-sheet lg:border-l-[1.5px] lg:border-ink"
    >
      <header className="flex items-baseline justify-between gap-2 border-b border-rule px-4 py-2.5">
        <h2 className="text-base">Verdicts</h2>
        <span className="text-soft" aria-live="polite">
          {countVerdicts(verdicts)}
        </span>
      </header>
      <div className="print-flow min-h-0 flex-1 overflow-y-auto px-4 pb-6">
        <Turns />
        <Refusal at="bench" />
        {open.length === 0 && (
          <p className="py-4 text-soft">
            Nothing speaks against this circuit in any state. Prove it on the car: crankcase vacuum at the dipstick
            tube, a smoke test, a look after the first drive.
          </p>
        )}
        {station && open.length > 0 && ofHere.length === 0 && (
          <p className="py-3 text-soft">Nothing to mend at {station.name}.</p>
        )}
        <VerdictList verdicts={ofHere} />
        {elsewhere.map((s) => (
          <VerdictFold key={s.key} name={s.name} about={countVerdicts(s.verdicts)} verdicts={s.verdicts} />
        ))}
        {good.length > 0 && (
          <VerdictFold name="In order" about={`${good.length}`} verdicts={good} open={open.length < FEW} />
        )}
        {!here.endsWith('/faults') && (
          <p className="no-print border-t border-rule py-3">
            It smokes, leaks or fills too fast?{' '}
            <Link href={`/builds/${id}/faults`} prefetch={false} className="link-button">
              Find the fault
            </Link>
          </p>
        )}
      </div>
    </section>
  )
}

function VerdictList({ verdicts }: { verdicts: readonly Verdict[] }) {
  return (
    <ul>
      {verdicts.map((v) => (
        <VerdictItem key={`${v.rule} ${v.subject}`} verdict={v} />
      ))}
    </ul>
  )
}

/** Verdicts folded under a name with how many and how bad they are. */
function VerdictFold({
  name,
  about,
  verdicts,
  open = false,
}: {
  name: string
  about: string
  verdicts: readonly Verdict[]
  open?: boolean
}) {
  return (
    <details className="border-t border-rule" open={open}>
      <summary className="min-h-11 content-center">
        <span className="font-bold">{name}</span> <span className="float-right text-soft">{about}</span>
      </summary>
      <VerdictList verdicts={verdicts} />
    </details>
  )
}

/** Whether it says that the car is not as the plan has it: a reading that is far off, a can that catches otherwise than it did. */
const isOdd = (v: Verdict): boolean => v.rule === 'reading' || /-(rising|falling)$/.test(v.subject)

function VerdictItem({ verdict: v }: { verdict: Verdict }) {
  const edit = useWorkspace((s) => s.edit)
  const fix = useWorkspace((s) => fixIn(s, v)?.fix)
  const ready = useWorkspace((s) => fixIn(s, v)?.ready)
  const show = useWorkspace((s) => s.show)
  const select = useWorkspace((s) => s.select)
  const id = useWorkspace((s) => s.id)
  const units = useUnits()
  const router = useRouter()
  const here = usePathname()
  const target = `/builds/${id}/${v.at.station}` as const
  const figure = figureOfVerdict(v)
  const jump = () => {
    if (v.at.state) show(v.at.state)
    if (v.at.line) select({ kind: 'line', id: v.at.line })
    else if (v.at.part) select({ kind: 'part', id: v.at.part })
    if (here !== target) router.push(target)
  }
  return (
    <li className="border-b border-rule py-3 last:border-b-0">
      <div className="flex gap-2.5">
        <SeverityMark severity={v.severity} />
        <div className="min-w-0">
          <h3 className="text-sm leading-snug">{v.title}</h3>
          <p className="mt-0.5 text-soft">{v.why}</p>
          {v.severity !== 'ok' && (
            <div className="no-print mt-1 flex flex-wrap gap-x-4">
              {fix && (
                <button
                  type="button"
                  className="link-button"
                  disabled={!ready}
                  onClick={() => edit(fix.edits, fix.label)}
                >
                  {fix.label}
                </button>
              )}
              <button
                type="button"
                className="min-h-7 text-soft underline decoration-rule-strong underline-offset-4 hover:text-ink"
                onClick={jump}
              >
                Show
              </button>
              {isOdd(v) && (
                <Link
                  href={`/builds/${id}/faults`}
                  prefetch={false}
                  className="min-h-7 content-center text-soft underline decoration-rule-strong underline-offset-4 hover:text-ink"
                >
                  Find the fault
                </Link>
              )}
              {figure && (
                <WorkingButton
                  of={figure}
                  absolute={figure.kind === 'flow'}
                  label={`${v.title}: the working`}
                  className="min-h-7 cursor-help text-soft underline decoration-dotted decoration-rule-strong underline-offset-4 hover:text-ink"
                >
                  Working
                </WorkingButton>
              )}
              <Link
                href={`/reference?system=${units.system}&pressure=${units.pressure}#${v.rule}`}
                prefetch={false}
                className="min-h-7 content-center text-soft underline decoration-rule-strong underline-offset-4 hover:text-ink"
                aria-label={`${v.title}: the rule`}
              >
                Rule
              </Link>
            </div>
          )}
        </div>
      </div>
    </li>
  )
}
