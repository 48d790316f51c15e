'use client'
/** What stands further down is fetched and built when the reader comes near it. */
import { useEffect, useRef, useState, type ReactNode } from 'react'

export function Later({ children, height = 120 }: { children: ReactNode; height?: number }) {
  const place = useRef<HTMLDivElement>(null)
  const [near, setNear] = useState(false)
  useEffect(() => {
    if (!place.current || near) return
    const seen = new IntersectionObserver(
      (entries) => {
        if (entries.some((e) => e.isIntersecting)) setNear(true)
      },
      { rootMargin: '100px' },
    )
    seen.observe(place.current)
    return () => seen.disconnect()
  }, [near])
  return <div ref={place}>{near ? children : <div style={{ minHeight: height }} aria-hidden />}</div>
}
