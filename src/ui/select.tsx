'use client'
/** A choice of one from a list; what draws the list is loaded when the first is opened. */
import { ChevronDown } from 'lucide-react'
import { useId, useState, type ComponentType, type KeyboardEvent } from 'react'
import type { SelectProps } from './select-list'

export type { Option } from './select-list'

/** Keys that open a list. */
const OPENS = new Set(['Enter', ' ', 'ArrowDown', 'ArrowUp'])

export function Select<T extends string>(props: SelectProps<T>) {
  const { value, options, label, id, className = '' } = props
  const list = useId()
  const [List, setList] = useState<ComponentType<SelectProps<string>> | undefined>(undefined)
  const open = () => void import('./select-list').then((m) => setList(() => m.default))
  // from then on it is a list that can be open
  if (List) return <List {...(props as unknown as SelectProps<string>)} />
  return (
    <button
      type="button"
      id={id}
      role="combobox"
      aria-expanded={false}
      aria-controls={list}
      aria-label={label}
      className={`field flex items-center justify-between gap-1 text-left ${className}`}
      onClick={open}
      onKeyDown={(e: KeyboardEvent) => {
        if (!OPENS.has(e.key)) return
        e.preventDefault()
        open()
      }}
    >
      <span>{options.find((o) => o.value === value)?.name ?? 'choose'}</span>
      <ChevronDown size={16} aria-hidden />
    </button>
  )
}
