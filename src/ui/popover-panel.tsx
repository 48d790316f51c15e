'use client'
/** A panel beside what opened it, closed by Escape or a press elsewhere. Loaded when the first is opened: use `popover.tsx`. */
import { Popover } from 'radix-ui'
import type { ReactNode, RefObject } from 'react'

export type PanelProps = {
  readonly label: string
  readonly anchor: RefObject<Element | null>
  readonly onClose: () => void
  readonly children: ReactNode
  readonly className?: string
  readonly side?: 'bottom' | 'left'
  readonly align?: 'center' | 'end'
}

export default function OpenPanel({
  label,
  anchor,
  onClose,
  children,
  className = '',
  side = 'bottom',
  align = 'center',
}: PanelProps) {
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={anchor as RefObject<HTMLElement>} />
      <Popover.Portal>
        <Popover.Content
          className={`menu ${className}`}
          side={side}
          align={align}
          sideOffset={6}
          collisionPadding={12}
          aria-label={label}
          onInteractOutside={(e) => {
            if (anchor.current?.contains(e.target as Node)) e.preventDefault()
          }}
          onCloseAutoFocus={(e) => {
            e.preventDefault()
            ;(anchor.current as HTMLElement | SVGElement | null)?.focus()
          }}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
