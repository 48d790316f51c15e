'use client'
/** What a can may hang on: where it is, what kind of thing, what that carries. */
import { memo } from 'react'
import { Plus } from 'lucide-react'
import { MOUNT_FACTS } from '@/plan/catalogue/mounts'
import { changeBay } from '@/plan/bay/bay-builders'
import { MAX_MOUNTS, MOUNTS } from '@/plan/document/bounds'
import { SPOT_FIELDS } from '@/plan/document/bay-fields'
import type { Bay } from '@/plan/document/schema'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { useUnits, useWorkspace } from '../workspace/store'
import { unitFormatter } from '@/plan/document/words'
import { NameField } from '@/ui/name-field'
import { nextId, TakeOut } from './standing'

type Mount = NonNullable<Bay['mounts']>[number]
const KEYS = ['forwardMm', 'leftMm', 'upMm'] as const

const NONE: readonly Mount[] = []

export const Mounts = memo(function Mounts({ mounts = NONE }: { mounts: readonly Mount[] | undefined }) {
  const act = useWorkspace((s) => s.act)
  const say = unitFormatter(useUnits())
  const put = (to: readonly Mount[], burst?: string) =>
    act(changeBay({ mounts: [...to] }), 'What a can may hang on', burst)
  const change = (id: string, to: Partial<Mount>) =>
    put(
      mounts.map((m) => (m.id === id ? { ...m, ...to, measured: true } : m)),
      `mount ${id} ${Object.keys(to).join(' ')}`,
    )
  return (
    <section aria-labelledby="mounts" className="overflow-x-auto">
      <h2 id="mounts" className="head border-b-[1.5px] border-ink pb-1">
        What a can may hang on
      </h2>
      <table className="table w-full min-w-[35rem] table-fixed">
        <thead>
          <tr>
            <th className="w-[22%]">What</th>
            <th className="w-[16%]">Kind</th>
            {KEYS.map((k) => (
              <th key={k} className="w-[10%]">
                {SPOT_FIELDS[k].label.toLowerCase()}
              </th>
            ))}
            <th>What it bears</th>
            <th className="no-print w-[7%]" />
          </tr>
        </thead>
        <tbody>
          {mounts.map((m) => (
            <tr key={m.id}>
              <td>
                <NameField
                  label={`Name of the mount ${m.name}`}
                  name={m.name}
                  onChange={(name) => change(m.id, { name })}
                />
              </td>
              <td>
                <Select
                  label={`Kind of ${m.name}`}
                  value={m.kind}
                  options={MOUNTS.map((value) => ({ value, name: MOUNT_FACTS[value].name }))}
                  onChange={(kind) => change(m.id, { kind })}
                />
              </td>
              {KEYS.map((k) => (
                <td key={k}>
                  <NumberField
                    field={SPOT_FIELDS[k]}
                    label={`${m.name}, ${SPOT_FIELDS[k].label.toLowerCase()}`}
                    hideLabel
                    hideUnit
                    value={m[k]}
                    onChange={(v) => {
                      if (v !== undefined) change(m.id, { [k]: v })
                    }}
                  />
                </td>
              ))}
              <td className="!whitespace-normal text-xs text-soft">
                {MOUNT_FACTS[m.kind].bears}; carries {say.mass(MOUNT_FACTS[m.kind].carriesKg)}
              </td>
              <td className="no-print">
                <TakeOut label={`Take the mount ${m.name} out`} onPress={() => put(mounts.filter((x) => x !== m))} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <button
        type="button"
        className="link-button inline-flex items-center gap-1"
        disabled={mounts.length >= MAX_MOUNTS}
        onClick={() =>
          put([
            ...mounts,
            {
              id: nextId(mounts, 'mount'),
              name: 'Bolt',
              kind: 'bolt',
              forwardMm: 100,
              leftMm: -60,
              upMm: 0,
              measured: false,
            },
          ])
        }
      >
        <Plus size={16} aria-hidden /> Another bolt or bracket
      </button>
    </section>
  )
})
