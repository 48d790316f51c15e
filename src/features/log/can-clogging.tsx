'use client'
/** How clogged a can is, by what it costs: what of its holes and media that leaves open. */
import { openShare } from '@/core/separation/drop'
import { PART_FIELDS } from '@/plan/document/fields'
import type { PartOf } from '@/plan/document/schema'
import { setPart } from '@/plan/edit/edit-builders'
import { stageOf } from '@/plan/catalogue/stages'
import { NumberField } from '../workspace/figures/field'
import { useWorkspace } from '../workspace/store'
import { STAGE_NAMES } from './stage-names'

export function CanClogging({ can }: { can: PartOf<'can'> }) {
  const act = useWorkspace((s) => s.act)
  const times = can.fouling ?? PART_FIELDS.can.fouling.standIn
  const clogs = can.stages.some((s) => openShare(stageOf(s), 2) < 1)
  const left = can.stages.flatMap((s) => {
    const open = openShare(stageOf(s), times)
    return open < 1 ? [`of its ${STAGE_NAMES[s.type]} ${Math.round(100 * open)} %`] : []
  })
  return (
    <div className="mt-2 grid grid-cols-[9rem_minmax(0,1fr)] items-center gap-x-4">
      <NumberField
        field={PART_FIELDS.can.fouling}
        value={can.fouling}
        estimate={PART_FIELDS.can.fouling.standIn}
        onChange={(v) => act(setPart(can.id, { fouling: v }), undefined, `${can.id} fouling`)}
      />
      <p className="text-xs text-soft">
        {left.length > 0
          ? `Still open ${left.join(', ')}. What is left runs faster: it catches finer by impact, and lets caught oil go sooner.`
          : clogs
            ? 'Clean. How many times its clean drop it costs when it has clogged: a gauge on either side tells.'
            : 'Nothing in it can clog but its nipples: what it catches stays the same.'}
      </p>
    </div>
  )
}
