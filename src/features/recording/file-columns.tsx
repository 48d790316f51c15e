'use client'
/** What the columns of a logger's file were taken for, on its first rows; put right by hand. */
import { isPressure, type ColumnMeaning } from '@/plan/recordings/columns'
import { COLUMN_ROLES, ROLE_FACTS, type ColumnRole } from '@/plan/recordings/roles'
import { Select } from '@/ui/select'
import { WideRegion } from '@/ui/wide-region'
import type { FileFacts } from './recording-job'
import { SAID } from './remembered-heads'

const CHOICES = COLUMN_ROLES.map((role) => ({ value: role, name: ROLE_FACTS[role].label }))
const MEANT = [
  { value: 'gauge', name: 'over the pressure outside' },
  { value: 'absolute', name: 'absolute' },
]

export function FileColumns({
  file,
  onColumns,
}: {
  file: FileFacts
  onColumns: (columns: readonly ColumnMeaning[]) => void
}) {
  const { columns } = file
  const rows = file.preview?.rows.slice(0, 4) ?? []
  const change = (k: number, to: Partial<ColumnMeaning>) =>
    onColumns(
      columns.map((c, i) =>
        i === k
          ? { ...c, ...to, reason: SAID }
          : // one column to a part: what another was is kept as it is
            to.role !== undefined && to.role !== 'other' && c.role === to.role
            ? { ...c, role: 'other', reason: `${columns[k]!.name} is that now` }
            : c,
      ),
    )
  return (
    <WideRegion label="Columns of the file">
      <table className="table">
        <thead>
          <tr>
            <th scope="col">Column</th>
            <th scope="col">is</th>
            <th scope="col">since</th>
            {rows.map((_, k) => (
              <th key={k} scope="col" className="num">
                row {k + 1}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {columns.map((c, k) => (
            // columns of one file stand where they stand
            // oxlint-disable-next-line react/no-array-index-key
            <tr key={k}>
              <th scope="row">
                {c.name}
                {c.unit && <span className="text-soft"> {c.unit}</span>}
              </th>
              <td>
                <Select
                  label={`${c.name} is`}
                  value={c.role}
                  options={CHOICES}
                  onChange={(role) => change(k, { role: role as ColumnRole })}
                />
                {isPressure(c.role) && (
                  <Select
                    label={`${c.name} counts`}
                    value={c.gauge ? 'gauge' : 'absolute'}
                    options={MEANT}
                    onChange={(v) => change(k, { gauge: v === 'gauge' })}
                  />
                )}
              </td>
              <td className="text-soft">{c.reason}</td>
              {rows.map((row, r) => (
                // rows of one file stand where they stand
                // oxlint-disable-next-line react/no-array-index-key
                <td key={r} className="num">
                  {row[k]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </WideRegion>
  )
}
