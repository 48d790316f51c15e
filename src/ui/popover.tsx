'use client'
/** A button that opens a panel beside itself; what draws the panel is loaded when the first is opened. */
import dynamic from 'next/dynamic'
import { importWithRetry } from '@/ui/import-with-retry'
import { useRef, useState, type ReactNode } from 'react'
import type { PanelProps } from './popover-panel'

export const PopoverPanel = dynamic(() => importWithRetry(() => import('./popover-panel')), { ssr: false })

type Props = Pick<PanelProps, 'label' | 'side' | 'align'> & {
  /** name of the button where what it shows is no word */
  readonly name?: string
  readonly button: ReactNode
  readonly buttonClass: string
  readonly panelClass?: string
  /** what the panel holds; `close` shuts it */
  readonly children: (close: () => void) => ReactNode
}

export function PopoverButton({ name, button, buttonClass, panelClass = '', children, ...panel }: Props) {
  const anchor = useRef<HTMLButtonElement>(null)
  const [open, setOpen] = useState(false)
  const close = () => setOpen(false)
  return (
    <>
      <button
        ref={anchor}
        type="button"
        className={buttonClass}
        aria-haspopup="dialog"
        aria-expanded={open}
        aria-label={name}
        title={name}
        onClick={() => setOpen(!open)}
      >
        {button}
      </button>
      {open && (
        <PopoverPanel anchor={anchor} onClose={close} className={panelClass} {...panel}>
          {children(close)}
        </PopoverPanel>
      )}
    </>
  )
}
