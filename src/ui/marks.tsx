/** Judgement as a shape and a word, never colour alone. */
import type { Severity } from '@/plan/verdicts/verdict'

const LABEL: Readonly<Record<Severity, string>> = { stop: 'Stop', fix: 'Fix', watch: 'Watch', ok: 'Good' }
export const SEVERITY_COLOUR: Readonly<Record<Severity, string>> = {
  stop: 'var(--stop)',
  fix: 'var(--fix)',
  watch: 'var(--watch)',
  ok: 'var(--good)',
}

/** Octagon for stop, triangle for fix, ring for watch, tick for good. */
export function SeverityMark({ severity, size = 18 }: { severity: Severity; size?: number }) {
  const colour = SEVERITY_COLOUR[severity]
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" role="img" aria-label={LABEL[severity]} className="shrink-0">
      {severity === 'stop' && (
        <>
          <path d="M6.2 1h7.6L19 6.2v7.6L13.8 19H6.2L1 13.8V6.2z" fill={colour} />
          <path d="M5.5 10h9" stroke="var(--sheet)" strokeWidth="2.6" />
        </>
      )}
      {severity === 'fix' && (
        <>
          <path d="M10 1.5 19.5 18.5H.5z" fill={colour} />
          <path d="M10 7.5v5.2M10 14.2v2" stroke="var(--sheet)" strokeWidth="2.2" />
        </>
      )}
      {severity === 'watch' && (
        <>
          <circle cx="10" cy="10" r="7.6" fill="none" stroke={colour} strokeWidth="2.6" />
          <circle cx="10" cy="10" r="2.6" fill={colour} />
        </>
      )}
      {severity === 'ok' && <path d="m2.5 10.5 5 5L17.5 4.5" fill="none" stroke={colour} strokeWidth="2.8" />}
    </svg>
  )
}

/** Ivent's own mark: a hood with a vent line under it. */
export function Logo() {
  return (
    <svg width="24" height="24" viewBox="0 0 24 24" aria-hidden>
      <path d="M4 22V10.5a8 8 0 0 1 16 0V22" fill="none" stroke="var(--blue)" strokeWidth="2.6" />
      <path d="M12 9v13" stroke="var(--oil-laden)" strokeWidth="2.6" strokeDasharray="3.4 2.4" />
    </svg>
  )
}
