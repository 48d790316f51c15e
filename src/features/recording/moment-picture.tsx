'use client'
/** The circuit at the moment under the hand: ladder and schematic at the speed and manifold pressure that were logged there. */
import { useDeferredValue, useMemo, useState } from 'react'
import { formatNumber, quantityText } from '@/core/units/format'
import { makeEvaluator } from '@/plan/model/evaluator'
import { solveMoment, type Moment } from '@/plan/model/moment'
import { STATE_NAMES } from '@/plan/document/words'
import { Ladder } from '../circuit/ladder'
import { Schematic } from '../circuit/schematic'
import { ShownMoment, useUnits, useWorkspace } from '../workspace/store'

export default function MomentPicture({ moment, time }: { moment: Moment; time: string }) {
  const build = useWorkspace((s) => s.build)
  const units = useUnits()
  const [evaluator] = useState(makeEvaluator)
  // the hand runs ahead; the circuit follows as fast as it can
  const { state, rpm, manifoldPa } = useDeferredValue(moment)
  const solved = useMemo(
    () => solveMoment(build, { state, rpm, manifoldPa }, evaluator),
    [build, state, rpm, manifoldPa, evaluator],
  )
  return (
    <section aria-labelledby="moment">
      <h3 id="moment" className="head border-b-[1.5px] border-ink pb-1">
        The circuit at {time}{' '}
        <span className="font-normal text-soft">
          {STATE_NAMES[moment.state].toLowerCase()}, {formatNumber(moment.rpm, 3)} rpm, manifold{' '}
          {quantityText(moment.manifoldPa, 'pressure', units, 3)} absolute
        </span>
      </h3>
      {solved?.solved ? (
        <ShownMoment value={solved}>
          <div className="grid gap-4 md:grid-cols-2 [&_figure]:h-[360px]">
            <Ladder />
            <Schematic />
          </div>
        </ShownMoment>
      ) : (
        <p className="text-soft">The plan has no answer there.</p>
      )}
    </section>
  )
}
