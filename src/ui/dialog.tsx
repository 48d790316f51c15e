'use client'
import { X } from 'lucide-react'
import { Dialog as Radix } from 'radix-ui'
import type { ReactNode } from 'react'

export function Dialog({
  open,
  onClose,
  title,
  about,
  children,
  wide,
}: {
  open: boolean
  onClose: () => void
  title: string
  about?: string
  children: ReactNode
  wide?: boolean
}) {
  return (
    <Radix.Root
      open={open}
      onOpenChange={(o) => {
        if (!o) onClose()
      }}
    >
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Radix.Content
          className={`menu fixed left-1/2 top-[10vh] z-50 max-h-[80vh] w-[92vw] -translate-x-1/2 overflow-auto p-5 ${wide ? 'max-w-3xl' : 'max-w-lg'}`}
          aria-describedby={about ? undefined : ''}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <Radix.Title className="text-lg">{title}</Radix.Title>
              {about && <Radix.Description className="mt-1 text-soft">{about}</Radix.Description>}
            </div>
            <Radix.Close className="button-quiet -mr-2 -mt-2" aria-label="Close">
              <X size={18} aria-hidden />
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
