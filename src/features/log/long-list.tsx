'use client'
/** A log of years: only the rows in sight are drawn. */
import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef, type ReactNode } from 'react'
import type { LogEntry } from '@/plan/document/schema'

/** How high a row is about. */
const ROW = 62

export default function LongList({ rows, row }: { rows: readonly LogEntry[]; row: (e: LogEntry) => ReactNode }) {
  const box = useRef<HTMLDivElement>(null)
  // its functions change with every scroll, which is what it is for
  // oxlint-disable-next-line react/incompatible-library
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 8,
    getItemKey: (i) => rows[i]!.id,
  })
  return (
    // a list longer than its box is scrolled by the keys
    <div
      ref={box}
      className="h-[32rem] overflow-y-auto"
      // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={0}
      role="region"
      aria-label="Entries, the last first"
    >
      <ul style={{ height: list.getTotalSize(), position: 'relative' }}>
        {list.getVirtualItems().map((item) => (
          <li
            key={item.key}
            ref={list.measureElement}
            data-index={item.index}
            aria-setsize={rows.length}
            aria-posinset={item.index + 1}
            className="absolute inset-x-0 top-0"
            style={{ transform: `translateY(${item.start}px)` }}
          >
            {row(rows[item.index]!)}
          </li>
        ))}
      </ul>
    </div>
  )
}
