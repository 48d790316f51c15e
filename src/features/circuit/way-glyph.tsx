/** Valves and cans on their way between two joints. */
export function WayGlyph({
  kind,
  x,
  y,
  shut,
  angle,
  chosen,
}: {
  kind: string
  x: number
  y: number
  shut: boolean
  angle: number
  chosen?: boolean
}) {
  const stroke = chosen ? 'var(--blue)' : 'var(--ink)'
  if (kind === 'can' || kind === 'filter') {
    return (
      <g transform={`translate(${x} ${y})`}>
        <rect x="-8" y="-11" width="16" height="22" rx="3" fill="var(--sheet)" stroke={stroke} strokeWidth="1.6" />
        <path
          d={kind === 'can' ? 'M-8 4c3-2 5 2 8 0s5-2 8 0v6h-16z' : 'M-5-7l10 5M-5-2l10 5M-5 3l10 5'}
          fill={kind === 'can' ? 'var(--oil-laden)' : 'none'}
          stroke={kind === 'can' ? 'none' : stroke}
        />
      </g>
    )
  }
  if (kind === 'restrictor')
    return (
      <g transform={`translate(${x} ${y}) rotate(${angle})`}>
        <circle r="11" fill="var(--sheet)" stroke={stroke} strokeWidth="1.6" />
        <path d="M-4-7v5M-4 7V2M4-7v5M4 7V2" stroke={stroke} strokeWidth="2.4" />
      </g>
    )
  return (
    <g transform={`translate(${x} ${y})`}>
      <circle r="11" fill="var(--sheet)" stroke={stroke} strokeWidth="1.8" />
      {shut ? (
        <path d="M-5-5 5 5M-5 5 5-5" stroke="var(--ink)" strokeWidth="2.4" />
      ) : (
        <g transform={`rotate(${angle})`}>
          <path d="M-5-5 4 0l-9 5z" fill="var(--ink)" />
          <path d="M5.5-5.5v11" stroke="var(--ink)" strokeWidth="1.8" />
        </g>
      )}
    </g>
  )
}
