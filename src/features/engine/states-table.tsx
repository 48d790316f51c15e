'use client'
/** What each state is taken to be; every figure may be replaced by one that was logged. */
import { fromSi, shownUnit, unitLabel, type Dimension } from '@/core/units/units'
import type { OperatingState } from '@/core/engine/states'
import type { Override } from '@/plan/document/schema'
import { STATE_NAMES } from '@/plan/explain/words'
import { NumberField, type KeptAs } from '../workspace/field'
import { useUnits, useWorkspace } from '../workspace/store'

type Column = {
  readonly key: keyof Override
  readonly head: string
  readonly name: string
  readonly kept?: KeptAs
  readonly dimension?: Dimension
  readonly of: (s: OperatingState) => number
}
const round = (v: number, to: number) => Math.round(v / to) * to
const COLUMNS: readonly Column[] = [
  { key: 'rpm', head: 'Speed', name: 'speed', of: (s) => round(s.rpm, 10) },
  {
    key: 'manifoldKpa',
    head: 'Manifold, abs.',
    name: 'manifold pressure',
    kept: 'Kpa',
    dimension: 'pressure',
    of: (s) => fromSi('pressure', s.manifoldPa, 'kPa'),
  },
  {
    key: 'inletDepressionKpa',
    head: 'Depression',
    name: 'inlet depression',
    kept: 'Kpa',
    dimension: 'pressure',
    of: (s) => Number(fromSi('pressure', s.inletDepressionPa, 'kPa').toFixed(2)),
  },
  {
    key: 'airGs',
    head: 'Engine air',
    name: 'engine air',
    kept: 'Gs',
    dimension: 'gasFlow',
    of: (s) => fromSi('gasFlow', s.airKgS, 'g/s'),
  },
  {
    key: 'gasC',
    head: 'Gas',
    name: 'crankcase gas',
    kept: 'C',
    dimension: 'temperature',
    of: (s) => fromSi('temperature', s.gasK, 'C'),
  },
  {
    key: 'oilC',
    head: 'Oil',
    name: 'oil',
    kept: 'C',
    dimension: 'temperature',
    of: (s) => fromSi('temperature', s.oilK, 'C'),
  },
  {
    key: 'bonnetC',
    head: 'Bonnet',
    name: 'air under the bonnet',
    kept: 'C',
    dimension: 'temperature',
    of: (s) => fromSi('temperature', s.bonnetK, 'C'),
  },
]

export function StatesTable() {
  const states = useWorkspace((s) => s.analysis.states)
  const overrides = useWorkspace((s) => s.build.engine.overrides)
  const edit = useWorkspace((s) => s.edit)
  const units = useUnits()
  return (
    <section aria-label="What each state is" className="overflow-x-auto">
      <table className="table w-full min-w-[33rem] table-fixed">
        <thead>
          <tr>
            <th className="w-[12%]">State</th>
            {COLUMNS.map((c) => (
              <th key={c.key}>
                {c.head}
                <span className="block">{c.dimension ? unitLabel(shownUnit(c.dimension, units)) : 'rpm'}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {states.map((s) => {
            const now: Override = overrides[s.id] ?? {}
            const set = (key: keyof Override, value: number | undefined) => {
              const next = JSON.parse(JSON.stringify({ ...now, [key]: value })) as Override
              edit(
                [
                  {
                    op: 'set',
                    path: ['engine', 'overrides', s.id],
                    value: Object.keys(next).length > 0 ? next : undefined,
                  },
                ],
                `${s.id} ${key}`,
              )
            }
            return (
              <tr key={s.id}>
                <th scope="row" className="!text-sm !font-bold !text-ink">
                  {STATE_NAMES[s.id]}
                </th>
                {COLUMNS.map((c) => (
                  <td key={c.key}>
                    <NumberField
                      hideLabel
                      hideUnit
                      label={`${STATE_NAMES[s.id]}, ${c.name}`}
                      value={now[c.key]}
                      estimate={c.of(s.operating)}
                      kept={c.kept}
                      unit={c.kept ? undefined : 'rpm'}
                      digits={c.key === 'rpm' ? 4 : 3}
                      path={`engine.overrides.idle.${c.key}`}
                      onChange={(v) => set(c.key, v)}
                    />
                  </td>
                ))}
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="pt-1 text-xs text-soft">
        ◇ estimated; type a logged value over it, clear it to go back. Figures that follow from it follow.
      </p>
    </section>
  )
}
