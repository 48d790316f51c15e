'use client'
/** Fittings of the builder's own: what lies in the drawer or is turned on the lathe, beside the tables. */
import { Trash2 } from 'lucide-react'
import { FORM_KEYS, formName, formOf } from '@/plan/catalogue/forms'
import { MAX_OWN } from '@/plan/document/bounds'
import { PIECE_FIELDS } from '@/plan/document/fit-fields'
import { setOwnPieces } from '@/plan/fit/fit-builders'
import type { OwnPiece } from '@/plan/fit/own-pieces'
import { FileButton } from '@/ui/file-button'
import { NameField } from '@/ui/name-field'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { saveOwnFittings } from '../workspace/frame/save-files'
import { useWorkspace } from '../workspace/store'

const FORMS = FORM_KEYS.map((key) => ({ value: key, name: formName(formOf(key)!) }))
const NONE: readonly OwnPiece[] = []

export function OwnFittings() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const refuse = useWorkspace((s) => s.refuse)
  const pieces = build.fit?.pieces ?? NONE
  const put = (to: readonly OwnPiece[], burst?: string) => act(setOwnPieces([...to]), 'Your own fittings', burst)
  const change = (id: string, to: Partial<OwnPiece>) =>
    put(
      pieces.map((p) => (p.id === id ? { ...p, ...to } : p)),
      `own ${id} ${Object.keys(to).join(' ')}`,
    )
  const fresh = () => crypto.randomUUID()
  const takeIn = async (name: string, text: string) => {
    const { readOwn } = await import('@/plan/fit/own-pieces-csv')
    const read = readOwn(text, fresh)
    if (read.ok) put([...pieces, ...read.value].slice(0, MAX_OWN))
    else refuse(`${name} was not read, nothing was changed. ${read.reason}`)
  }
  return (
    <section aria-labelledby="own" className="no-print overflow-x-auto">
      <h2 id="own" className="head border-b-[1.5px] border-ink pb-1">
        Fittings of your own
      </h2>
      <p className="pt-1 text-soft">
        What no table has: a piece from the drawer, one that was turned. Say what it fits on and what it offers; every
        line is made with it where that saves a joint.
      </p>
      {pieces.length > 0 && (
        <table className="table w-full min-w-[40rem] table-fixed">
          <thead>
            <tr>
              <th>What</th>
              <th className="w-[24%]">Fits on</th>
              <th className="w-[24%]">Offers</th>
              <th className="w-24">Least bore</th>
              <th className="w-12" />
            </tr>
          </thead>
          <tbody>
            {pieces.map((p) => (
              <tr key={p.id}>
                <td>
                  <NameField label="Name of the fitting" name={p.name} onChange={(name) => change(p.id, { name })} />
                </td>
                <td>
                  <Select
                    label={`${p.name}: fits on`}
                    value={p.from}
                    options={FORMS}
                    onChange={(from) => change(p.id, { from })}
                  />
                </td>
                <td>
                  <Select
                    label={`${p.name}: offers`}
                    value={p.to}
                    options={FORMS}
                    onChange={(to) => change(p.id, { to })}
                  />
                </td>
                <td>
                  <NumberField
                    field={PIECE_FIELDS.boreMm}
                    label={`${p.name}, least bore`}
                    hideLabel
                    value={p.boreMm}
                    onChange={(boreMm) => boreMm !== undefined && change(p.id, { boreMm })}
                  />
                </td>
                <td>
                  <button
                    type="button"
                    className="button-quiet"
                    aria-label={`Take ${p.name} out`}
                    onClick={() => put(pieces.filter((x) => x !== p))}
                  >
                    <Trash2 size={16} aria-hidden />
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="flex flex-wrap items-baseline gap-x-4">
        <button
          type="button"
          className="link-button min-h-9"
          disabled={pieces.length >= MAX_OWN}
          onClick={() =>
            put([
              ...pieces,
              { id: fresh(), name: 'Adapter', from: 'pipe-3/8', to: 'flare-10', boreMm: 11, joints: undefined },
            ])
          }
        >
          Add a fitting
        </button>
        <FileButton
          accept=".csv,text/csv"
          label="Take in a table of fittings"
          onFile={(file) => void file.text().then((text) => takeIn(file.name, text))}
        >
          Take in a table
        </FileButton>
        {pieces.length > 0 && (
          <button type="button" className="link-button min-h-9" onClick={() => void saveOwnFittings(build)}>
            As a table
          </button>
        )}
      </div>
    </section>
  )
}
