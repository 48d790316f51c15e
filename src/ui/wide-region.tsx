/** What may be wider than the page: it scrolls by itself, by the arrow keys too. */
import type { ReactNode } from 'react'

export const WideRegion = ({ label, children }: { label: string; children: ReactNode }) => (
  <section
    className="overflow-x-auto"
    aria-label={label}
    // a place that scrolls takes the keyboard
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    tabIndex={0}
  >
    {children}
  </section>
)
