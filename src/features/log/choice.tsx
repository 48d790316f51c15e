'use client'
/** The telephone's own list: large under an oily thumb, and no weight. */
export function Choice<T extends string>({
  id,
  label,
  value,
  options,
  onChange,
  problem,
}: {
  id: string
  label: string
  value: T
  options: readonly { value: T; name: string }[]
  onChange: (value: T) => void
  problem?: string | undefined
}) {
  return (
    <div>
      <label htmlFor={id} className="block text-xs text-soft">
        {label}
      </label>
      <select id={id} className="field min-h-11" value={value} onChange={(e) => onChange(e.target.value as T)}>
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.name}
          </option>
        ))}
      </select>
      {problem && (
        <p role="alert" className="text-xs font-bold text-stop">
          {problem}
        </p>
      )}
    </div>
  )
}
