'use client'
/** The bracket of a can: flat, to scale, with its bends, and whether it rings. */
import { BRACKET_SHAPES } from '@/plan/document/bounds'
import { setBracket } from '@/plan/fit/fit-builders'
import { BRACKET_NAMES, bracketDrawing, bracketFor, type BracketPlan } from '@/plan/fit/bracket'
import { ALLOYS } from '@/plan/catalogue/alloys'
import { activeVariant } from '@/plan/edit/edit'
import { lowered, unitFormatter } from '@/plan/document/words'
import { OPENS, WorkingButton } from '../workspace/figures/working-popover'
import { Select } from '@/ui/select'
import { useUnits, useWorkspace } from '../workspace/store'
import { FlatDrawing } from './flat-drawing'

export function Bracket({ canId, name }: { canId: string; name: string }) {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const chosen = build.fit?.brackets?.find((b) => b.id === canId)
  const say = unitFormatter(useUnits())
  const found = bracketFor(build, activeVariant(build), canId)
  return (
    <section aria-label={`Bracket of the ${lowered(name)}`}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 className="head">Bracket for the {lowered(name)}</h2>
        <span className="no-print flex flex-wrap gap-x-4">
          <Select
            label={`Shape of the bracket of the ${lowered(name)}`}
            className="!w-56"
            value={found.ok ? found.value.shape : (chosen?.shape ?? 'L')}
            options={BRACKET_SHAPES.map((value) => ({ value, name: BRACKET_NAMES[value] }))}
            onChange={(shape) => act(setBracket(canId, { shape }), `Bracket of the ${lowered(name)}`)}
          />
          <Select
            label={`Sheet for the bracket of the ${lowered(name)}`}
            className="!w-56"
            value={chosen?.alloy ?? ALLOYS[0]!.key}
            options={ALLOYS.map((a) => ({ value: a.key, name: a.name }))}
            onChange={(alloy) => act(setBracket(canId, { alloy }), `Sheet of the bracket of the ${lowered(name)}`)}
          />
        </span>
      </div>
      {found.ok ? (
        <>
          <p className="mt-1 text-sm">
            {judged(found.value, say)} Flat it is{' '}
            <WorkingButton
              of={() => import('@/plan/explain/making').then((m) => m.bracketWorkings(found.value).flat)}
              className={OPENS}
            >
              {say.mm(found.value.flatM * 1000)}
            </WorkingButton>{' '}
            long; how it{' '}
            <WorkingButton
              of={() => import('@/plan/explain/making').then((m) => m.bracketWorkings(found.value).rings)}
              className={OPENS}
            >
              rings
            </WorkingButton>
            .
          </p>
          {found.value.notes.map((n) => (
            <p key={n} className="text-sm">
              {n}
            </p>
          ))}
          <FlatDrawing drawing={bracketDrawing(found.value)} />
        </>
      ) : (
        <p className="mt-1 text-soft">{found.reason}</p>
      )}
    </section>
  )
}

function judged(b: BracketPlan, say: ReturnType<typeof unitFormatter>): string {
  const [idle, rated] = b.engineHz.map((hz) => Math.round(hz))
  const order = `order ${b.order} of the engine, ${idle} to ${rated} Hz from idle to rated speed`
  const on = b.on.map(lowered).join(' and the ')
  const rings =
    b.rings === 'above'
      ? `It first rings at ${Math.round(b.ringsHz)} Hz, above ${order}.`
      : `It rings at ${Math.round(b.ringsHz)} Hz, within ${order}: a nearer mount, a flange along its edges, or rubber under it.`
  const bears = b.tooHeavy ? ` The ${on} bears less than that.` : ''
  const alone = b.bracket.supports === 2 && b.rings === 'above' ? ' One support alone would bounce.' : ''
  const sheet = `${say.mm(b.bracket.thicknessM * 1000)} ${b.alloy.name}`
  return `${sheet}, on the ${on}; ${say.mass(b.massKg)} with the can full.${bears} ${rings}${alone}`
}
