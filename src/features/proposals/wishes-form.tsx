'use client'
/** What the builder asks for, each with what is assumed where he says nothing. */
import { CANS } from '@/plan/catalogue/cans'
import { MEANS_NAMES, type Means } from '@/plan/catalogue/effort'
import type { Wishes } from '@/plan/proposals/wishes'
import { Select } from '@/ui/select'

const MEANS = Object.keys(MEANS_NAMES) as readonly Means[]

function Most({
  label,
  value,
  unit,
  onChange,
}: {
  label: string
  value: number
  unit: string
  onChange: (value: number) => void
}) {
  return (
    <label className="flex items-baseline justify-between gap-2 border-b border-rule py-1">
      <span>{label}</span>
      <span className="flex items-baseline gap-1">
        <input
          className="field !w-14 text-right"
          inputMode="decimal"
          autoComplete="off"
          placeholder="any"
          aria-label={label}
          value={Number.isFinite(value) ? String(value) : ''}
          onChange={(e) => {
            const x = Number(e.target.value)
            if (e.target.value.trim() === '') onChange(Infinity)
            else if (Number.isFinite(x) && x >= 0) onChange(x)
          }}
        />
        <span className="w-11 text-soft">{unit}</span>
      </span>
    </label>
  )
}

/** No can lies in the drawer. */
const NO_CAN = 'none'
const DRAWER = [
  { value: NO_CAN, name: 'nothing in the drawer' },
  ...CANS.map((c) => ({ value: c.key, name: `use the ${c.name.toLowerCase()} there is` })),
]

export function WishesForm({
  wishes,
  assumed,
  onChange,
}: {
  wishes: Wishes
  /** nothing was asked yet: what is shown is taken */
  assumed: boolean
  onChange: (wishes: Wishes) => void
}) {
  const set = (change: Partial<Wishes>) => onChange({ ...wishes, ...change })
  const box = (label: string, checked: boolean, on: (checked: boolean) => void) => (
    <label key={label} className="flex min-h-9 items-center gap-2">
      <input type="checkbox" className="size-5 shrink-0" checked={checked} onChange={(e) => on(e.target.checked)} />
      {label}
    </label>
  )
  return (
    <section aria-labelledby="wishes">
      <h2 id="wishes" className="head border-b-[1.5px] border-ink pb-1">
        What you will and will not do
      </h2>
      {assumed && <p className="py-1 text-xs text-soft">Assumed, until you change it.</p>}
      {box('keep it sealed', wishes.sealed, (sealed) => set({ sealed }))}
      {box('below +2 kPa in nine engines of ten', wishes.badEnd, (badEnd) => set({ badEnd }))}
      {MEANS.map((m) =>
        box(`no ${MEANS_NAMES[m].doing}`, wishes.refused.includes(m), (on) =>
          set({ refused: on ? [...wishes.refused, m] : wishes.refused.filter((x) => x !== m) }),
        ),
      )}
      <Select
        label="Can in the drawer"
        className="my-1 w-full"
        value={wishes.keepCan ?? NO_CAN}
        options={DRAWER}
        onChange={(model) => set({ keepCan: model === NO_CAN ? undefined : model })}
      />
      <Most label="Parts, at most" unit="" value={wishes.mostPrice} onChange={(mostPrice) => set({ mostPrice })} />
      <Most label="Work, at most" unit="h" value={wishes.mostHours} onChange={(mostHours) => set({ mostHours })} />
      <Most
        label="Looks, at most"
        unit="a year"
        value={wishes.mostLooks}
        onChange={(mostLooks) => set({ mostLooks })}
      />
    </section>
  )
}
