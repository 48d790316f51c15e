'use client'
import { Tabs as Radix } from 'radix-ui'
import type { ReactNode } from 'react'

export type Tab<K extends string> = { readonly key: K; readonly name: string; readonly content: ReactNode }

/** A row of tabs over what the chosen one shows; only that is built. */
export function Tabs<K extends string>({
  label,
  value,
  onChange,
  tabs,
  className = '',
  aside,
}: {
  label: string
  value: K
  onChange: (key: K) => void
  tabs: readonly Tab<K>[]
  className?: string
  aside?: ReactNode
}) {
  return (
    <Radix.Root
      value={value}
      onValueChange={(v) => onChange(v as K)}
      className={`print-flow flex min-h-0 min-w-0 flex-col ${className}`}
    >
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <Radix.List aria-label={label} className="flex gap-4">
          {tabs.map((t) => (
            <Radix.Trigger
              key={t.key}
              value={t.key}
              className="min-h-10 border-b-[3px] border-transparent px-1 font-bold text-soft data-[state=active]:border-blue data-[state=active]:text-blue"
            >
              {t.name}
            </Radix.Trigger>
          ))}
        </Radix.List>
        {aside}
      </div>
      {tabs.map((t) => (
        <Radix.Content
          key={t.key}
          value={t.key}
          tabIndex={-1}
          className="print-flow relative min-h-0 flex-1 overflow-auto"
        >
          {t.content}
        </Radix.Content>
      ))}
    </Radix.Root>
  )
}
