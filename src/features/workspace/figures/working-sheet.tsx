'use client'
/** The working of one figure: its lines, as a calculator takes them, the checks that a hand can make, what it depends on most, its source. */
import { useEffect, useState } from 'react'
import type { FigureRef } from '@/plan/explain/figures'
import { isStep, type WorkingLine } from '@/plan/explain/draft'
import { checkText, exactQuantity, resultText, shownQuantity } from '@/plan/explain/print'
import { workingOf, type Working } from '@/plan/explain/workings'
import type { Origin } from '@/plan/explain/figure'
import { QuantityText } from '@/ui/quantity'
import { useJob } from '../jobs/jobs'
import { shownBuild, useUnits, useWorkspace } from '../store'

const ORIGIN: Readonly<Record<Origin, { sign: string; name: string; className: string }>> = {
  measured: { sign: '●', name: 'measured', className: 'text-good font-bold' },
  entered: { sign: '■', name: 'entered', className: 'text-ink' },
  learned: { sign: '◈', name: 'learned', className: 'text-blue' },
  estimated: { sign: '◇', name: 'estimated', className: 'text-fix italic' },
  computed: { sign: '=', name: 'computed', className: 'text-soft' },
  solved: { sign: '≈', name: 'solved', className: 'text-soft' },
  constant: { sign: '·', name: 'constant', className: 'text-soft' },
}
function OriginMark({ origin }: { origin: Origin }) {
  const o = ORIGIN[origin]
  return (
    <span className={o.className} title={o.name}>
      <span aria-hidden>{o.sign}</span>
      <span className="sr-only">{o.name}</span>
    </span>
  )
}

/** One line: what it is, and under it the sum as it is keyed in. */
function Line({ line, units }: { line: WorkingLine; units: ReturnType<typeof useUnits> }) {
  const shown = shownQuantity(line.value, units)
  return (
    <li className="border-b border-rule py-1">
      <span className="flex items-baseline justify-between gap-3">
        <span>
          {isStep(line) ? <OriginMark origin="computed" /> : <OriginMark origin={line.origin} />} {line.name}
        </span>
        {shown && <span className="whitespace-nowrap text-soft">{shown}</span>}
      </span>
      <span className="block break-words pl-4">
        {line.symbol} = {isStep(line) && <span className="text-soft">{line.expression} = </span>}
        {exactQuantity(line.value)}
      </span>
    </li>
  )
}

type Sheet = { readonly absolute?: boolean; readonly digits?: number }

/** The working of a figure of the analysis, or one that is made elsewhere. */
export function WorkingSheet({ of, ...sheet }: Sheet & { of: FigureRef | (() => Promise<Working | undefined>) }) {
  const [asked] = useState(() => of)
  return typeof asked === 'function' ? <MadeSheet of={asked} {...sheet} /> : <FigureSheet of={asked} {...sheet} />
}

function MadeSheet({ of, ...sheet }: Sheet & { of: () => Promise<Working | undefined> }) {
  const [made, setMade] = useState<Working | 'none' | undefined>(undefined)
  useEffect(() => {
    let asked = true
    void of().then((working) => asked && setMade(working ?? 'none'))
    return () => {
      asked = false
    }
  }, [of])
  return made === undefined ? (
    <p className="text-soft">Working it out…</p>
  ) : (
    <Lines working={made === 'none' ? undefined : made} {...sheet} />
  )
}

/** The working itself; what it depends on most is worked out, away from the page, when it opens. */
function FigureSheet({ of, ...sheet }: Sheet & { of: FigureRef }) {
  const build = useWorkspace(shownBuild)
  const analysis = useWorkspace((s) => s.analysis)
  const evaluator = useWorkspace((s) => s.evaluator)
  return <Lines working={workingOf(build, analysis, of, evaluator)} asked={of} {...sheet} />
}

function Lines({ working, asked, absolute, digits }: Sheet & { working: Working | undefined; asked?: FigureRef }) {
  const units = useUnits()
  if (!working) return <p>This figure has no value in this state.</p>
  const result = absolute ? { ...working.result, si: Math.abs(working.result.si) } : working.result
  return (
    <div>
      <div className="flex items-baseline justify-between gap-3">
        <h3 className="head">{working.title}</h3>
        <span className="text-lg font-bold">
          <QuantityText q={result} units={units} digits={digits} />
        </span>
      </div>
      {working.solved && <p className="mt-2 border-l-2 border-blue pl-2">{working.solved}</p>}
      <ol className="mt-2" aria-label="Lines of the working">
        {working.lines.map((line) => (
          <Line key={line.symbol} line={line} units={units} />
        ))}
      </ol>
      <p className="mt-2 break-words font-bold">
        {resultText(
          working.symbol,
          { ...result, si: Math.abs(result.si) * (absolute ? 1 : Math.sign(result.si) || 1) },
          units,
          digits,
        )}
      </p>
      {working.checks.length > 0 && (
        <>
          <h4 className="head mt-3">To check by hand</h4>
          {working.checks.map((c) => (
            <p key={c.says} className="break-words">
              {c.says}: {checkText(c)}
            </p>
          ))}
        </>
      )}
      {asked && <Strongest of={asked} dimension={working.result.dimension} />}
      <p className="mt-3 text-xs text-soft">{working.source}</p>
      {working.note && <p className="mt-1 text-xs text-soft">{working.note}</p>}
      <p className="mt-2 text-xs text-soft">
        {(Object.keys(ORIGIN) as Origin[]).map((o) => (
          <span key={o} className="mr-2 whitespace-nowrap">
            <OriginMark origin={o} /> {ORIGIN[o].name}
          </span>
        ))}
      </p>
    </div>
  )
}

/** What moves the figure most, each fact and estimate raised alone. */
function Strongest({
  of,
  dimension,
}: {
  of: FigureRef
  dimension: Parameters<typeof QuantityText>[0]['q']['dimension']
}) {
  const build = useWorkspace(shownBuild)
  const today = useWorkspace((s) => s.today)
  const units = useUnits()
  const job = useJob('influences')
  const { start } = job
  useEffect(() => start(build, today, of), [start, build, today, of])
  if (!job.value)
    return (
      <p className="mt-3 text-xs text-soft" role="status">
        {job.failed ?? `Finding out what moves it most, ${Math.round((job.progress ?? 0) * 100)} %`}
      </p>
    )
  if (job.value.length === 0) return null
  return (
    <>
      <h4 className="head mt-3">What moves it most</h4>
      <ul>
        {job.value.map((s) => (
          <li key={s.name} className="flex justify-between gap-3 py-0.5">
            <span>
              {s.name}, {s.by === 'a tenth' ? 'a tenth more' : units.system === 'metric' ? '10 °C more' : '18 °F more'}
            </span>
            <span>
              makes it <QuantityText q={{ si: s.to, dimension }} units={units} />
            </span>
          </li>
        ))}
      </ul>
    </>
  )
}
