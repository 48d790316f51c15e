'use client'
/** The screen of a phone or tablet stays on while the card is open: hands are oily, and the next step is wanted at a glance. */
import { useEffect, useState } from 'react'

/** Whether the screen is kept on now. At a bench it goes off as ever. */
export function useScreenOn(): boolean {
  const [on, setOn] = useState(false)
  useEffect(() => {
    if (!('wakeLock' in navigator) || !matchMedia('(pointer: coarse)').matches) return undefined
    let over = false
    let lock: WakeLockSentinel | undefined
    const take = async () => {
      // let go by the browser whenever the page is hidden
      if (over || document.visibilityState !== 'visible' || (lock && !lock.released)) return
      lock = await navigator.wakeLock.request('screen').catch(() => undefined)
      if (over) void lock?.release()
      setOn(lock !== undefined)
      lock?.addEventListener('release', () => setOn(false), { once: true })
    }
    const again = () => void take()
    again()
    document.addEventListener('visibilitychange', again)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', again)
      void lock?.release()
    }
  }, [])
  return on
}
