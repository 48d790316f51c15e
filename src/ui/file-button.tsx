'use client'
/** A file from the device: a link that opens the choice; the same file can be chosen twice. */
import type { ReactNode } from 'react'

type Props = {
  readonly accept: string
  readonly onFile: (file: File) => void
  /** said to a screen reader where the words alone would not tell what it is for */
  readonly label?: string
  readonly className?: string
  readonly children: ReactNode
}

export function FileButton({ accept, onFile, label, className = '', children }: Props) {
  return (
    <label className={`link-button ${className}`}>
      {children}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) onFile(file)
        }}
      />
    </label>
  )
}
