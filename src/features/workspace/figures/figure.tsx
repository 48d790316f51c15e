'use client'
/** A computed figure that opens its working. */
import { Popover } from 'radix-ui'
import dynamic from 'next/dynamic'
import { useRef, useState } from 'react'
import { dimensionOf, readFigure, type FigureRef } from '@/plan/explain/figures'
import { QuantityText } from '@/ui/quantity'
import { NO_FIGURE } from '@/core/units/format'
import { shownBuild, useUnits, useWorkspace } from '../store'

// worked out, and its code loaded, when someone asks
const WorkingSheet = dynamic(() => import('./working-sheet').then((m) => m.WorkingSheet), {
  loading: () => <p className="text-soft">Working it out…</p>,
})

export function Figure({
  of,
  digits = 3,
  sign,
  absolute,
  bare,
  className = '',
}: {
  of: FigureRef
  digits?: number
  sign?: boolean
  absolute?: boolean
  /** the unit stands at the head of the column */ bare?: boolean
  className?: string
}) {
  const build = useWorkspace(shownBuild)
  const analysis = useWorkspace((s) => s.analysis)
  const evaluator = useWorkspace((s) => s.evaluator)
  const units = useUnits()
  const button = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  const raw = readFigure(build, analysis, of, evaluator)
  if (raw === undefined || !Number.isFinite(raw))
    return <span className={className}>{raw === Infinity ? 'never' : NO_FIGURE}</span>
  return (
    <>
      <button
        ref={button}
        type="button"
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className={`-my-2 cursor-help py-2 text-right underline decoration-dotted decoration-rule-strong underline-offset-4 hover:decoration-solid hover:decoration-blue ${className}`}
      >
        <QuantityText
          q={{ si: absolute ? Math.abs(raw) : raw, dimension: dimensionOf(of) }}
          units={units}
          digits={digits}
          sign={sign}
          bare={bare}
        />
        <span className="sr-only">, show the working</span>
      </button>
      {/* made when it is asked for: a table of eighty lines holds three hundred figures */}
      {open && (
        <Popover.Root open onOpenChange={setOpen}>
          <Popover.Anchor virtualRef={button as React.RefObject<HTMLButtonElement>} />
          <Popover.Portal>
            <Popover.Content
              className="menu w-[22rem] max-w-[94vw] p-4"
              sideOffset={6}
              collisionPadding={12}
              aria-label="Working"
              onInteractOutside={(e) => {
                if (button.current?.contains(e.target as Node)) e.preventDefault()
              }}
              onCloseAutoFocus={(e) => {
                e.preventDefault()
                button.current?.focus()
              }}
            >
              <WorkingSheet of={of} />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </>
  )
}
