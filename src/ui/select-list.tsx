'use client'
/** A list that is open beside its field. Loaded when the first is opened: use `select.tsx`. */
import { Check, ChevronDown } from 'lucide-react'
import { Select as Radix } from 'radix-ui'

export type Option<T extends string> = { readonly value: T; readonly name: string; readonly about?: string }
export type SelectProps<T extends string> = {
  readonly value: T | undefined
  readonly options: readonly Option<T>[]
  readonly onChange: (value: T) => void
  readonly label: string
  readonly id?: string
  readonly className?: string
}

export default function SelectList({ value, options, onChange, label, id, className = '' }: SelectProps<string>) {
  return (
    <Radix.Root defaultOpen value={value ?? ''} onValueChange={onChange}>
      <Radix.Trigger
        id={id}
        aria-label={label}
        className={`field flex items-center justify-between gap-1 text-left ${className}`}
      >
        <Radix.Value placeholder="choose" />
        <Radix.Icon>
          <ChevronDown size={16} aria-hidden />
        </Radix.Icon>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content className="menu max-h-[70vh] p-1" position="popper" sideOffset={4}>
          <Radix.Viewport>
            {options.map((o) => (
              <Radix.Item key={o.value} value={o.value} className="menu-item pr-8">
                <span>
                  <Radix.ItemText>{o.name}</Radix.ItemText>
                  {o.about && <span className="block text-xs text-soft">{o.about}</span>}
                </span>
                <Radix.ItemIndicator className="ml-auto">
                  <Check size={16} aria-hidden />
                </Radix.ItemIndicator>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
