'use client'
/** Which of a few pictures is shown: words in a row, the one that is shown in bold. */

export function Views<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string
  value: T
  options: Readonly<Record<T, string>>
  onChange: (to: T) => void
}) {
  return (
    <div role="radiogroup" aria-label={label} className="no-print flex gap-x-4">
      {(Object.keys(options) as T[]).map((v) => (
        <button
          key={v}
          type="button"
          role="radio"
          aria-checked={v === value}
          className={v === value ? 'min-h-8 font-bold' : 'link-button min-h-8'}
          onClick={() => onChange(v)}
        >
          {options[v]}
        </button>
      ))}
    </div>
  )
}
