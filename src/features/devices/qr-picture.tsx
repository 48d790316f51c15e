'use client'
/** A text as a picture for a camera. Black on white by night too: cameras read nothing else well. */
import { create } from 'qrcode'
import { useMemo } from 'react'

/** White around the picture that a camera needs, modules. */
const MARGIN = 4

export function QrPicture({ text, name }: { text: string; name: string }) {
  const { size, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: 'M' })
    const dark = [...modules.data].flatMap((on, k) =>
      on ? [`M${k % modules.size} ${Math.floor(k / modules.size)}h1v1h-1z`] : [],
    )
    return { size: modules.size, path: dark.join('') }
  }, [text])
  const whole = size + 2 * MARGIN
  return (
    <svg
      role="img"
      aria-label={name}
      data-text={text}
      viewBox={`${-MARGIN} ${-MARGIN} ${whole} ${whole}`}
      shapeRendering="crispEdges"
      className="h-auto w-full bg-white"
    >
      <path d={path} fill="#000" />
    </svg>
  )
}
