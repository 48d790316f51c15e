'use client'
/** The working of a figure beside whatever shows it: a button in a table, a label in a picture. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useContext, useRef, useState, type KeyboardEvent, type ReactNode, type RefObject } from 'react'
import type { FigureRef } from '@/plan/explain/figures'
import type { Working } from '@/plan/explain/workings'
import { PopoverPanel } from '@/ui/popover'
import { ShownMoment } from '../store'

// worked out, and its code loaded, when someone asks
const WorkingSheet = dynamic(() => importWithRetry(() => import('./working-sheet').then((m) => m.WorkingSheet)), {
  loading: () => <p className="text-soft">Working it out…</p>,
})

/** A figure of the analysis; or, of what is made, its working itself: its code is loaded, and it is written, when it is asked for. */
type Asked = {
  readonly of: FigureRef | (() => Promise<Working | undefined>)
  readonly digits?: number | undefined
  readonly absolute?: boolean | undefined
}

function WorkingPopover({
  asked: { of, digits, absolute },
  anchor,
  onOpenChange,
}: {
  asked: Asked
  anchor: RefObject<Element | null>
  onOpenChange: (open: boolean) => void
}) {
  return (
    <PopoverPanel
      label="Working"
      anchor={anchor}
      onClose={() => onOpenChange(false)}
      className="max-h-[var(--radix-popover-content-available-height)] w-[26rem] max-w-[94vw] overflow-auto p-4"
    >
      <WorkingSheet of={of} absolute={absolute ?? false} digits={digits} />
    </PopoverPanel>
  )
}

/** How a figure looks that opens its working. */
export const OPENS =
  'opens -my-2 cursor-help py-2 text-right underline decoration-dotted decoration-rule-strong underline-offset-4 hover:decoration-solid hover:decoration-blue'

/** A button that opens the working of a figure; made when it is asked for: a table of eighty lines holds three hundred figures. */
export function WorkingButton({
  children,
  className = '',
  label,
  ...asked
}: Asked & { children: ReactNode; className?: string; label?: string }) {
  const button = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  return (
    <>
      <button
        ref={button}
        type="button"
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={label}
        onClick={() => setOpen(!open)}
        className={className}
      >
        {children}
      </button>
      {open && <WorkingPopover asked={asked} anchor={button} onOpenChange={setOpen} />}
    </>
  )
}

/** A label of a picture that opens the working of its figure. */
export function WorkingLabel({ children, label, ...asked }: Asked & { children: ReactNode; label: string }) {
  const group = useRef<SVGGElement>(null)
  const [open, setOpen] = useState(false)
  const isMoment = useContext(ShownMoment) !== undefined
  const toggle = (e: { stopPropagation: () => void; preventDefault: () => void }) => {
    e.stopPropagation()
    e.preventDefault()
    setOpen(!open)
  }
  if (isMoment) return <g>{children}</g>
  return (
    <>
      <g
        ref={group}
        role="button"
        tabIndex={0}
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={label}
        className="cursor-help"
        onClick={toggle}
        onKeyDown={(e: KeyboardEvent) => {
          if (e.key === 'Enter' || e.key === ' ') toggle(e)
        }}
      >
        {children}
      </g>
      {open && <WorkingPopover asked={asked} anchor={group} onOpenChange={setOpen} />}
    </>
  )
}
