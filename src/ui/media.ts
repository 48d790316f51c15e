'use client'
/** Whether the window is as a media query asks. */
import { useCallback, useSyncExternalStore } from 'react'

/**
 * @param query such as `(min-width: 64rem)`
 * @param atFirst what is taken before the page is live
 */
export function useMedia(query: string, atFirst: boolean): boolean {
  const watch = useCallback(
    (changed: () => void) => {
      const media = matchMedia(query)
      media.addEventListener('change', changed)
      return () => media.removeEventListener('change', changed)
    },
    [query],
  )
  return useSyncExternalStore(
    watch,
    () => matchMedia(query).matches,
    () => atFirst,
  )
}

/** Whether a picture has a phone's width alone (Tailwind's `max-sm`). */
export const usePhoneWidth = (): boolean => useMedia('(width < 40rem)', false)
