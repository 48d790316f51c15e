'use client'
/** The cover's own baffle: plates of holes under an outlet, tried here, put in the plan, drawn piece by piece. */
import { useState } from 'react'
import { BAFFLE_DEFAULTS, type CoverBaffle } from '@/plan/catalogue/cover-baffle'
import { DROP_REFERENCE } from '@/plan/catalogue/stages'
import { PORT_FIELDS } from '@/plan/document/fields'
import { lowered, unitFormatter } from '@/plan/document/words'
import { activeVariant } from '@/plan/edit/edit'
import {
  coverBaffleDrawing,
  coverBafflesOf,
  holesFor,
  judgeBaffle,
  outletBoreMm,
  outletsOf,
  PLATE_FLOW,
  setCoverBaffle,
} from '@/plan/fit/cover-baffle'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { OPENS, WorkingButton } from '../workspace/figures/working-popover'
import { useUnits, useWorkspace } from '../workspace/store'
import { FlatDrawing } from './flat-drawing'

const FIELDS = [
  ['plates', PORT_FIELDS.baffles],
  ['holes', PORT_FIELDS.baffleHoles],
  ['holeMm', PORT_FIELDS.baffleHoleMm],
  ['gapMm', PORT_FIELDS.baffleGapMm],
  ['returns', PORT_FIELDS.baffleReturns],
  ['returnMm', PORT_FIELDS.baffleReturnMm],
] as const

// its code is loaded when a working is asked for
const workings = (b: CoverBaffle, d50: number | undefined) =>
  import('@/plan/explain/making').then((m) => m.baffleWorkings(b, d50))

export function CoverBaffles() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const say = unitFormatter(useUnits())
  const variant = activeVariant(build)
  const outlets = outletsOf(variant)
  const inPlan = coverBafflesOf(variant)
  const first = inPlan[0] ?? outlets[0]
  const [at, setAt] = useState(first && `${first.part.id}.${first.port.id}`)
  const [tried, setTried] = useState<Partial<CoverBaffle>>({})
  const outlet = outlets.find((o) => `${o.part.id}.${o.port.id}` === at) ?? outlets[0]
  if (!outlet) return null
  const { part, port } = outlet
  const fitted = inPlan.find((b) => b.part.id === part.id && b.port.id === port.id)
  const outletMm = outletBoreMm(variant, part.id, port)
  const holeMm = fitted?.baffle.holeMm ?? tried.holeMm ?? BAFFLE_DEFAULTS.holeMm
  const fewest = holesFor(outletMm, holeMm)
  // what stands there by habit
  const usual: CoverBaffle = { plates: 2, ...BAFFLE_DEFAULTS, holes: fewest.ok ? fewest.value : 2 }
  const baffle = fitted?.baffle ?? { ...usual, ...tried }
  const refused = fitted || tried.holes !== undefined || fewest.ok ? undefined : fewest.reason
  const judged = judgeBaffle(baffle, outletMm)
  const change = (to: Partial<CoverBaffle>) => {
    if (fitted)
      act(
        setCoverBaffle(part.id, port.id, { ...baffle, ...to }),
        `Baffle of the ${lowered(part.name)}`,
        `baffle ${part.id} ${port.id} ${Object.keys(to).join(' ')}`,
      )
    else setTried({ ...tried, ...to })
  }
  const percent = Math.round(100 * judged.passage)
  return (
    <>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 pt-2">
        <h3 className="text-sm">
          Baffle under the {lowered(part.name)}, {lowered(port.name)}
          {fitted ? ', in the plan' : ''}
        </h3>
        <Select
          label="Outlet that the baffle stands under"
          className="no-print !w-60"
          value={`${part.id}.${port.id}`}
          options={outlets.map((o) => ({
            value: `${o.part.id}.${o.port.id}`,
            name: `${o.part.name}, ${lowered(o.port.name)}`,
          }))}
          onChange={setAt}
        />
      </div>
      <div className="grid max-w-2xl grid-cols-2 gap-x-4 sm:grid-cols-6">
        {FIELDS.map(([key, field]) => (
          <NumberField
            key={key}
            field={field}
            value={fitted || tried[key] !== undefined ? baffle[key] : undefined}
            estimate={baffle[key]}
            // emptied, it is what stands there by habit again
            onChange={(v) => change({ [key]: v ?? usual[key] })}
          />
        ))}
      </div>
      {refused ? (
        <p className="mt-1 text-fix">{refused}</p>
      ) : (
        <p className={`mt-1 text-sm ${judged.passage < 1 ? 'text-fix' : ''}`} role="status">
          {judged.passage < 1
            ? `Its ${judged.least === 'holes' ? 'holes pass' : 'channel passes'} only ${percent} % of the ${say.mm(outletMm)} outlet: more holes, a wider channel.`
            : `Every passage lets through ${percent} % of the ${say.mm(outletMm)} outlet or more.`}{' '}
          At {say.flow(PLATE_FLOW)} it costs{' '}
          <WorkingButton of={() => workings(baffle, judged.d50).then((w) => w.drop)} digits={2} className={OPENS}>
            {say.pressure(judged.dropKpaAt100 * 1000)}
          </WorkingButton>{' '}
          and keeps half of{' '}
          {judged.d50 === undefined ? (
            'nothing'
          ) : (
            <>
              droplets of{' '}
              <WorkingButton of={() => workings(baffle, judged.d50).then((w) => w.half)} digits={2} className={OPENS}>
                {(judged.d50 * 1e6).toPrecision(2)} µm
              </WorkingButton>
            </>
          )}
          , on {Math.round(judged.surfaceM2 * 1e4)} cm² of plate.
        </p>
      )}
      <p className="no-print">
        <button
          type="button"
          className="link-button"
          disabled={refused !== undefined}
          onClick={() => {
            act(
              setCoverBaffle(part.id, port.id, fitted ? undefined : baffle),
              fitted ? `No baffle under the ${lowered(part.name)}` : `A baffle under the ${lowered(part.name)}`,
            )
            setTried({})
          }}
        >
          {fitted ? 'Take it out of the plan' : 'Put it in the plan'}
        </button>
        {!fitted && (
          <span className="pl-3 text-xs text-soft">
            tried here alone; in the plan its drop and what it keeps count, at{' '}
            {Math.round(DROP_REFERENCE.gasK - 273.15)} °C and in every state
          </span>
        )}
      </p>
      {!refused && <FlatDrawing drawing={coverBaffleDrawing({ part, port, baffle, outletMm })} />}
    </>
  )
}
