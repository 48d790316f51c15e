'use client'
/** Files from the device: a field that opens the choice, and a link around one; the same file can be chosen twice. */
import { useEffect, useEffectEvent, useRef, type ReactNode, type RefObject } from 'react'

type InputProps = {
  readonly accept: string
  readonly onFiles: (files: readonly File[]) => void
  /** said to a screen reader where the words alone would not tell what it is for */
  readonly label?: string | undefined
  readonly multiple?: boolean
  /** for a button of its own that opens the choice: the field itself is then left out of the tab order */
  readonly field?: RefObject<HTMLInputElement | null>
}

export function FileInput({ accept, onFiles, label, multiple = false, field }: InputProps) {
  const own = useRef<HTMLInputElement>(null)
  const input = field ?? own
  const take = () => {
    const files = [...(input.current?.files ?? [])]
    if (files.length === 0) return
    input.current!.value = ''
    onFiles(files)
  }
  const takeEarly = useEffectEvent(take)
  // chosen before the page was live: no event comes for these any more
  useEffect(() => takeEarly(), [])
  return (
    <input
      ref={input}
      type="file"
      multiple={multiple}
      accept={accept}
      className="sr-only"
      tabIndex={field ? -1 : undefined}
      aria-label={label}
      onChange={take}
    />
  )
}

type Props = {
  readonly accept: string
  readonly onFile: (file: File) => void
  readonly label?: string
  readonly className?: string
  readonly children: ReactNode
}

export function FileButton({ accept, onFile, label, className = '', children }: Props) {
  return (
    <label className={`link-button ${className}`}>
      {children}
      <FileInput accept={accept} label={label} onFiles={([file]) => onFile(file!)} />
    </label>
  )
}
