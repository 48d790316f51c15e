'use client'
/** Numbers that glide to their new values; at once when motion is to be reduced. */
import { useEffect, useRef, useState } from 'react'

const MS = 520
const ease = (t: number) => (t < 0.5 ? 4 * t ** 3 : 1 - (2 - 2 * t) ** 3 / 2)

export function useGlide(target: Readonly<Record<string, number>>, key: string): Readonly<Record<string, number>> {
  const [now, setNow] = useState(target)
  const from = useRef(target)
  const shown = useRef(target)
  const lastKey = useRef(key)
  useEffect(() => {
    // only a change of state is acted out; a change of size follows the hand at once
    const still = lastKey.current === key || matchMedia('(prefers-reduced-motion: reduce)').matches
    lastKey.current = key
    if (still) {
      shown.current = target
      setNow(target)
      return
    }
    from.current = shown.current
    const start = performance.now()
    let frame = requestAnimationFrame(function step(time) {
      const t = Math.min(1, (time - start) / MS)
      const e = ease(t)
      const next: Record<string, number> = {}
      for (const [id, to] of Object.entries(target))
        next[id] = (from.current[id] ?? to) + (to - (from.current[id] ?? to)) * e
      shown.current = next
      setNow(next)
      if (t < 1) frame = requestAnimationFrame(step)
    })
    return () => cancelAnimationFrame(frame)
  }, [target, key])
  // parts that have just been added have no past to glide from
  return Object.keys(target).every((id) => id in now) ? now : target
}
