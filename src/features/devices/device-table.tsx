'use client'
/** Devices that are in: what each is called and may do, when it was last here, and putting it out. */
import { RIGHTS, type Rights } from '@/plan/edit/rights'
import { moment } from '@/ui/dates'
import { NameField } from '@/ui/name-field'
import { Select } from '@/ui/select'
import type { DeviceRow } from './api'
import { RIGHTS_NAMES } from './let-in'

export function DeviceTable({
  devices,
  onChange,
  onPutOut,
}: {
  devices: readonly DeviceRow[]
  onChange: (d: DeviceRow, change: { name?: string; rights?: Rights }) => void
  /** one of them, or all */
  onPutOut: (d: DeviceRow | undefined) => void
}) {
  if (devices.length === 0) return <p className="mt-3 text-soft">No device is in. This machine itself is the bench.</p>
  return (
    <>
      <div className="overflow-x-auto">
        <table className="table w-full">
          <thead>
            <tr>
              <th>Device</th>
              <th>May</th>
              <th>Last seen</th>
              <th>Let in</th>
              <th>
                <span className="sr-only">Put out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {devices.map((d) => (
              <tr key={d.id}>
                <td className="min-w-40">
                  <NameField label={`Name of ${d.name}`} name={d.name} onChange={(name) => onChange(d, { name })} />
                </td>
                <td className="min-w-36">
                  <Select<Rights>
                    label={`What ${d.name} may do`}
                    value={d.rights}
                    options={RIGHTS.map((r) => ({ value: r, name: RIGHTS_NAMES[r] }))}
                    onChange={(rights) => onChange(d, { rights })}
                  />
                </td>
                <td className="whitespace-nowrap">{moment(d.lastSeen)}</td>
                <td className="whitespace-nowrap text-soft">{moment(d.pairedAt)}</td>
                <td className="text-right">
                  <button
                    type="button"
                    className="link-button whitespace-nowrap"
                    aria-label={`Put ${d.name} out`}
                    onClick={() => onPutOut(d)}
                  >
                    Put out
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {devices.length > 1 && (
        <button type="button" className="button mt-4" onClick={() => onPutOut(undefined)}>
          Put all {devices.length} out
        </button>
      )}
    </>
  )
}
