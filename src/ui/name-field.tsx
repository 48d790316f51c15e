'use client'
/** The name of a thing: taken when the field is left, an empty one is not. */
export function NameField({
  label,
  name,
  onChange,
}: {
  label: string
  name: string
  onChange: (name: string) => void
}) {
  return (
    <>
      <span className="hidden print:inline">{name}</span>
      <input
        className="field no-print"
        aria-label={label}
        maxLength={80}
        key={name}
        defaultValue={name}
        onBlur={(e) => {
          const typed = e.target.value.trim()
          if (typed !== '' && typed !== name) onChange(typed)
        }}
      />
    </>
  )
}
