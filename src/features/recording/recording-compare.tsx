'use client'
/** Another recording over this one, state by state: before and after some work. */
import { useState } from 'react'
import { STATE_IDS } from '@/core/engine/states'
import { quantityText } from '@/core/units/format'
import { fromSi, unitLabel } from '@/core/units/units'
import { STATE_NAMES } from '@/plan/document/words'
import type { DrivenState } from '@/plan/studies/recording-report'
import { FileButton } from '@/ui/file-button'
import { pressureScale } from '@/ui/pressure-scale'
import { Select } from '@/ui/select'
import { useJob } from '../workspace/jobs/jobs'
import { useUnits, useWorkspace } from '../workspace/store'
import { plainName, readKept, useKept } from './kept-recordings'
import { rememberedHeads } from './remembered-heads'

const [WIDTH, ROW, LEFT] = [560, 46, 90]
const LINEAR_PA = 150
const NONE = ''

type Of = { readonly name: string; readonly states: readonly DrivenState[] }

function Boxes({ mine, other }: { mine: Of; other: Of }) {
  const units = useUnits()
  const rows = STATE_IDS.flatMap((id) => {
    const [a, b] = [mine.states.find((s) => s.id === id), other.states.find((s) => s.id === id)]
    return a || b ? [{ id, a, b }] : []
  })
  const all = rows.flatMap(({ a, b }) =>
    [a, b].flatMap((s) => (s ? [s.measured.low, s.measured.high, s.predicted.low, s.predicted.high] : [])),
  )
  const [low, high] = [Math.min(-300, ...all.filter(Number.isFinite)), Math.max(300, ...all.filter(Number.isFinite))]
  const x = pressureScale(LINEAR_PA, [low * 1.1, high * 1.1], [LEFT, WIDTH])
  const text = (s: DrivenState) => quantityText(s.measured.mid, 'pressure', units, 2)
  const height = rows.length * ROW + 18
  return (
    <>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} className="w-full max-w-3xl" role="img" aria-label="Crankcase by state">
        <path d={`M${x(0)} 0V${height - 16}`} stroke="var(--ink)" />
        {[-10, -3, -1, -0.3, 0, 0.3, 1, 3, 10]
          .map((v) => v * 1000)
          .filter((pa) => pa >= low * 1.1 && pa <= high * 1.1)
          .map((pa) => (
            <text key={pa} x={x(pa)} y={height - 4} fontSize="10" textAnchor="middle" fill="var(--soft)">
              {pa > 0 ? '+' : ''}
              {Number(fromSi('pressure', pa, units.pressure).toPrecision(2))}
            </text>
          ))}
        {rows.map(({ id, a, b }, k) => {
          const y = k * ROW
          const band = (a ?? b)!.predicted
          return (
            <g key={id}>
              <path d={`M0 ${y + ROW - 4}H${WIDTH}`} stroke="var(--rule)" />
              <text x="0" y={y + 22} fontSize="12" fill="var(--ink)">
                {STATE_NAMES[id]}
              </text>
              {Number.isFinite(band.low) && (
                <rect
                  x={x(band.low)}
                  y={y + 3}
                  width={Math.max(2, x(band.high) - x(band.low))}
                  height={ROW - 12}
                  fill="var(--oil-clean)"
                  opacity="0.6"
                />
              )}
              {a && (
                <rect
                  x={x(a.measured.low)}
                  y={y + 6}
                  width={Math.max(3, x(a.measured.high) - x(a.measured.low))}
                  height="12"
                  fill="var(--blue)"
                />
              )}
              {b && (
                <rect
                  x={x(b.measured.low)}
                  y={y + 22}
                  width={Math.max(3, x(b.measured.high) - x(b.measured.low))}
                  height="12"
                  fill="var(--sheet)"
                  stroke="var(--ink)"
                  strokeDasharray="3 2"
                  strokeWidth="1.4"
                />
              )}
            </g>
          )
        })}
      </svg>
      <table className="table max-w-3xl">
        <thead>
          <tr>
            <th scope="col">State, {unitLabel(units.pressure)}</th>
            <th scope="col" className="num">
              <span className="mr-1 inline-block h-2.5 w-5 bg-blue" aria-hidden />
              {mine.name}
            </th>
            <th scope="col" className="num">
              <span className="mr-1 inline-block h-2.5 w-5 border-2 border-dashed border-ink" aria-hidden />
              {other.name}
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ id, a, b }) => (
            <tr key={id}>
              <th scope="row">{STATE_NAMES[id]}</th>
              <td className="num">{a ? text(a) : 'not driven'}</td>
              <td className="num">{b ? text(b) : 'not driven'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-xs text-soft">Boxes hold four of five readings; behind them what this plan predicts.</p>
    </>
  )
}

export function RecordingCompare({ name, states }: Of) {
  const build = useWorkspace((s) => s.build)
  const { photos, urlOf } = useKept()
  const { value, progress, failed, start } = useJob('driven')
  const [other, setOther] = useState<string | undefined>(undefined)
  const [wrong, setWrong] = useState<string | undefined>(undefined)
  const choices = photos.filter((p) => plainName(p.name) !== name)
  const choose = async (id: string) => {
    const photo = choices.find((p) => p.id === id)
    if (!photo) return
    const read = await readKept(urlOf(photo))
    if (typeof read === 'string') return setWrong(read)
    setWrong(undefined)
    setOther(plainName(photo.name))
    start(build, { of: read })
  }
  return (
    <section aria-labelledby="compare-recording">
      <h3 id="compare-recording" className="head border-b-[1.5px] border-ink pb-1">
        Before and after
      </h3>
      <div className="flex flex-wrap items-center gap-4 py-1">
        <span className="text-soft">Lay another recording over this one, state by state:</span>
        {choices.length > 0 && (
          <Select
            label="Recording to compare with"
            className="!w-56"
            value={NONE}
            options={[
              { value: NONE, name: 'one that is kept…' },
              ...choices.map((p) => ({ value: p.id, name: plainName(p.name) })),
            ]}
            onChange={(id) => void choose(id)}
          />
        )}
        <FileButton
          accept=".csv,.tsv,.txt,.log,text/csv,text/tab-separated-values,text/plain"
          onFile={(file) => {
            setWrong(undefined)
            setOther(file.name)
            start(build, { of: file, remembered: rememberedHeads() })
          }}
        >
          A file
        </FileButton>
        {progress !== undefined && <span role="status">Reading, {Math.round(100 * progress)} %</span>}
      </div>
      {(wrong ?? failed ?? (value && !value.ok ? value.reason : undefined)) && (
        <p role="alert" className="font-bold text-stop">
          {wrong ?? failed ?? (value && !value.ok ? value.reason : undefined)}
        </p>
      )}
      {value?.ok && other !== undefined && (
        <Boxes mine={{ name, states }} other={{ name: other, states: value.value }} />
      )}
    </section>
  )
}
