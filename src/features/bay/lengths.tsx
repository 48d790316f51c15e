'use client'
/** What the way of every line comes to: length, bends; or why it cannot be led so. Points on the way are typed or taken out. */
import { quantityText } from '@/core/units/format'
import { useEffect, useRef } from 'react'
import { setWay } from '@/plan/bay/bay-builders'
import { useJob } from '../workspace/jobs/jobs'
import { saveBay, saveWays } from '../workspace/frame/save-files'
import { layOf, wayOf } from '@/plan/bay/lay'
import { SPOT_FIELDS } from '@/plan/document/bay-fields'
import { activeVariant } from '@/plan/edit/edit'
import type { Bay, Line } from '@/plan/document/schema'
import { FileButton } from '@/ui/file-button'
import { OPENS, WorkingButton } from '../workspace/figures/working-popover'
import { NumberField } from '../workspace/figures/field'
import { useUnits, useWorkspace } from '../workspace/store'

const KEYS = ['forwardMm', 'leftMm', 'upMm'] as const

export function Lengths({ bay }: { bay: Bay }) {
  const variant = useWorkspace((s) => activeVariant(s.build))
  const lines = variant.lines.filter((l) => l.kind !== 'direct')
  return (
    <section aria-labelledby="lengths" className="overflow-x-auto">
      <h2 id="lengths" className="head border-b-[1.5px] border-ink pb-1">
        Lines as they are led
      </h2>
      <table className="table w-full min-w-[34rem]">
        <thead>
          <tr>
            <th>Line</th>
            <th>Length and bends</th>
            <th>Led by</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <LineRow key={l.id} line={l} bay={bay} />
          ))}
        </tbody>
      </table>
      <Files />
    </section>
  )
}

/** Searches a way that keeps clear, and leads the line there. */
function FindWay({ line, kinked }: { line: Line; kinked: boolean }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const job = useJob('way')
  const asked = useRef<unknown>(undefined)
  const { value, progress } = job
  useEffect(() => {
    // each answer is taken once, and only for the bay that it was searched in
    if (!value || progress !== undefined || asked.current !== build) return
    asked.current = undefined
    if (value.ok)
      act(setWay(line.id, value.value), `${line.name}: ${kinked ? 'a longer run, without the kink' : 'a way found'}`)
  }, [value, progress, act, build, line, kinked])
  return (
    <>
      {progress === undefined ? (
        <button
          type="button"
          className="link-button"
          onClick={() => {
            asked.current = build
            job.start(build, line.id)
          }}
        >
          {kinked ? 'Take a longer run, without the kink' : 'Find a way'}
        </button>
      ) : (
        <button type="button" className="link-button" onClick={job.stop}>
          Stop the search, {Math.round(progress * 100)} %
        </button>
      )}
      {progress === undefined && (value?.ok === false || job.failed) && (
        <span role="status" className="basis-full text-xs text-fix">
          {value?.ok === false ? value.reason : job.failed}
        </span>
      )}
    </>
  )
}

/** The bay as drawings, and the ways as a table, out and in. */
function Files() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const refuse = useWorkspace((s) => s.refuse)
  return (
    <p className="no-print flex flex-wrap gap-x-4 pt-1">
      <button type="button" className="link-button" onClick={() => void saveBay(build, 'svg')}>
        Drawings as SVG
      </button>
      <button type="button" className="link-button" onClick={() => void saveBay(build, 'dxf')}>
        Drawings as DXF
      </button>
      <button type="button" className="link-button" onClick={() => void saveWays(build)}>
        Points of the ways as CSV
      </button>
      <FileButton
        accept=".csv,text/csv"
        onFile={(file) =>
          void file.text().then(async (text) => {
            const { readWays } = await import('@/plan/bay/way-csv')
            const read = readWays(build, text)
            if (read.ok) act(read.value, 'Ways read from a table')
            else refuse(`${file.name} was not read, nothing was changed. ${read.reason}`)
          })
        }
      >
        Read points in
      </FileButton>
    </p>
  )
}

function LineRow({ line, bay }: { line: Line; bay: Bay }) {
  const build = useWorkspace((s) => s.build)
  const variant = activeVariant(build)
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const text = (m: number) => quantityText(m, 'length', units, 3)
  const path = layOf(bay, variant, line)
  const way = line.way ?? []
  const bends = path.ok ? path.value.bendsDeg.filter((d) => d > 1) : []
  const [first, last] = path.ok ? path.value.endsDeg : [0, 0]
  const bent = path.ok
    ? [
        ...(first > 0 ? [`${first}° hose end at its start`] : []),
        ...(last > 0 ? [`${last}° hose end at its end`] : []),
        ...(path.value.clockingDeg === undefined
          ? []
          : [`clocked ${Math.round(path.value.clockingDeg)}° to each other`]),
      ]
    : []
  const middle = () => {
    const known = wayOf(bay, variant, line)
    if (!known) return
    const [a, b] = [known.at(-2)!, known.at(-1)!]
    const mm = (k: 0 | 1 | 2) => Math.round(((a[k] + b[k]) / 2) * 1000)
    act(setWay(line.id, [...way, { forwardMm: mm(0), leftMm: mm(1), upMm: mm(2) }]), `${line.name}: a point on its way`)
  }
  return (
    <tr>
      <th scope="row" className="!text-ink">
        {line.name}
      </th>
      <td className="!whitespace-normal">
        {path.ok ? (
          <>
            <WorkingButton
              of={() => import('@/plan/explain/making').then((m) => m.lengthWorking(build, line))}
              label={`${line.name}, ${text(path.value.lengthM)}: the working`}
              className={OPENS}
            >
              {text(path.value.lengthM)}
            </WorkingButton>
            {bends.length > 0 &&
              `, ${bends.map((d) => `${Math.round(d)}°`).join(' and ')} at ${text(path.value.radiusM)}`}
            {bent.length > 0 && <span className="block text-xs text-soft">{bent.join(', ')}</span>}
          </>
        ) : (
          <span className="text-fix">
            {path.reason} It keeps the {text(line.lengthMm / 1000)} that it had.
          </span>
        )}
      </td>
      <td>
        {way.map((p, i) => (
          // points of a way have no identity but their order
          // oxlint-disable-next-line react/no-array-index-key
          <div key={i} className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-1">
            {KEYS.map((k) => (
              <NumberField
                key={k}
                field={SPOT_FIELDS[k]}
                label={`${line.name}, point ${i + 1}, ${SPOT_FIELDS[k].label.toLowerCase()}`}
                hideLabel
                hideUnit
                value={p[k]}
                onChange={(v) => {
                  if (v === undefined) return
                  const next = way.map((q, j) => (j === i ? { ...q, [k]: v } : q))
                  act(setWay(line.id, next), `${line.name} led another way`, `way ${line.id} ${i} ${k}`)
                }}
              />
            ))}
            <button
              type="button"
              className="button-quiet"
              aria-label={`Take point ${i + 1} of the ${line.name.toLowerCase()} out`}
              onClick={() =>
                act(
                  setWay(
                    line.id,
                    way.filter((_, j) => j !== i),
                  ),
                  `${line.name}: a point less`,
                )
              }
            >
              ×
            </button>
          </div>
        ))}
        <div className="flex flex-wrap gap-x-4">
          <button type="button" className="link-button" onClick={middle}>
            Lead it by a point
          </button>
          <FindWay line={line} kinked={!path.ok && way.length > 0} />
        </div>
      </td>
    </tr>
  )
}
