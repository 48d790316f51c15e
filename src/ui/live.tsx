'use client'
/**
 * A page shows before its script runs. What is typed or pressed in that moment would stand on the screen and nowhere else, so fields and
 * buttons wait for it.
 */
import { useSyncExternalStore, type ReactNode } from 'react'

const never = () => () => undefined

export function Live({ children }: { children: ReactNode }) {
  const live = useSyncExternalStore(
    never,
    () => true,
    () => false,
  )
  return (
    <fieldset role="none" disabled={!live} className="contents">
      {children}
    </fieldset>
  )
}
