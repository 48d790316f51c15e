'use client'
/** The plan as it stands, mended at a press a step, the fewest that do it. */
import { useJob } from '../workspace/jobs/jobs'
import { useWorkspace } from '../workspace/store'
import { signedNumber } from './objectives'

export function MendThis() {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const edit = useWorkspace((s) => s.edit)
  const { value, of, progress, start } = useJob('mend')
  const found = of?.[0] === build ? value : undefined
  return (
    <section aria-labelledby="mend">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 id="mend" className="head">
          The plan as it stands, without a finding
        </h2>
        <button
          type="button"
          className="link-button no-print"
          disabled={progress !== undefined}
          onClick={() => start(build, today)}
        >
          {progress === undefined ? 'Find the least that does it' : 'Trying its fixes…'}
        </button>
      </div>
      {found && (
        <>
          {found.steps.length === 0 && (
            <p className="py-1">
              {found.left.length === 0 ? 'Nothing is to be mended in it.' : 'No press mends what is left:'}
            </p>
          )}
          {found.steps.length > 0 && (
            <p className="py-1">
              {found.steps.length === 1 ? 'One step' : `${found.steps.length} steps`}, {signedNumber(found.hours)} h,{' '}
              {signedNumber(found.price)} for parts. Each is undone alone.
            </p>
          )}
          <ol className="list-decimal pl-5">
            {found.steps.map((s) => (
              <li key={s.label}>{s.label}</li>
            ))}
          </ol>
          {found.left.length > 0 && <p className="text-watch">Left: {found.left.join('; ')}.</p>}
          {found.steps.length > 0 && (
            <button
              type="button"
              className="button mt-1"
              onClick={() => {
                for (const s of found.steps) edit(s.edits, s.label)
              }}
            >
              Make {found.steps.length === 1 ? 'it' : 'all of them'}
            </button>
          )}
        </>
      )}
    </section>
  )
}
