'use client'
/** A photograph laid under a view: three touches of it and one distance, and the picture has the bay's scale. */
import { useState } from 'react'
import { SIDE_NAMES, type Side } from '@/plan/bay/drawing'
import { readUnderlay, scaledPhoto, UNDERLAY_FIELDS, underlayText, type Underlay } from '@/plan/bay/underlay'
import { readField } from '@/plan/edit/typed'
import { Dialog } from '@/ui/dialog'
import { FileButton } from '@/ui/file-button'
import { shrunkPhoto, usePhotos } from '../workspace/photos/photos'
import { photoOf } from '../workspace/photos/photo-of'
import { useUnits } from '../workspace/store'

export type Under = { readonly id: string; readonly url: string; readonly place: Underlay }
type OpenedPhoto = { readonly name: string; readonly data: string; readonly width: number; readonly height: number }
const STEPS = ['Touch the datum.', 'Touch one end of something whose length you know.', 'Touch its other end.'] as const

/** The photograph of a side, if there is one, and what lays or takes it. */
export function useUnderlay(side: Side) {
  const of = photoOf.side(side)
  const { photos, trouble, add, remove, urlOf } = usePhotos(of, true)
  const found = photos[0]
  const place = found && readUnderlay(found.about.slice(of.length))
  return {
    under: found && place ? ({ id: found.id, url: urlOf(found), place } satisfies Under) : undefined,
    trouble,
    add,
    remove,
  }
}

export function UnderlayControl({ side, lay }: { side: Side; lay: ReturnType<typeof useUnderlay> }) {
  const [opened, setOpened] = useState<OpenedPhoto | undefined>(undefined)
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const choose = async (file: File) => {
    try {
      setOpened({ name: file.name, ...(await shrunkPhoto(file)) })
      setProblem(undefined)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : 'The picture cannot be read.')
    }
  }
  return (
    <span className="no-print text-xs">
      {lay.under ? (
        <button type="button" className="link-button" onClick={() => void lay.remove(lay.under!.id)}>
          Take the photo away
        </button>
      ) : (
        <FileButton
          accept="image/*"
          label={`Photo ${SIDE_NAMES[side].toLowerCase()}`}
          onFile={(file) => void choose(file)}
        >
          Lay a photo under it
        </FileButton>
      )}
      {(problem ?? lay.trouble) && (
        <span role="alert" className="ml-2 font-bold text-stop">
          {problem ?? lay.trouble}
        </span>
      )}
      {opened && (
        <Scale
          photo={opened}
          onClose={() => setOpened(undefined)}
          onDone={(u) => {
            setOpened(undefined)
            void lay.add(opened.name, opened.data, ` ${underlayText(u)}`)
          }}
        />
      )}
    </span>
  )
}

function Scale({ photo, onClose, onDone }: { photo: OpenedPhoto; onClose: () => void; onDone: (u: Underlay) => void }) {
  const units = useUnits()
  const [points, setPoints] = useState<readonly (readonly [number, number])[]>([])
  const [text, setText] = useState('')
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const [cross, setCross] = useState<readonly [number, number]>([photo.width / 2, photo.height / 2])
  const touch = (p: readonly [number, number]) => {
    setCross(p)
    if (points.length < 3) setPoints([...points, p])
  }
  const done = () => {
    const length = readField(UNDERLAY_FIELDS.distanceMm, units, text)
    if (!length.ok) return setProblem(length.reason)
    const [datum, one, two] = points
    if (!datum || !one || !two) return setProblem('Three touches are needed first.')
    const scaled = scaledPhoto([one, two], length.value / 1000, datum, photo)
    if (!scaled.ok) return setProblem(scaled.reason)
    onDone(scaled.value)
  }
  return (
    <Dialog open title="Scale of the photo" onClose={onClose} wide>
      <p role="status" className="font-bold">
        {STEPS[points.length] ?? 'Now how far apart those two ends are:'}
      </p>
      <svg
        viewBox={`0 0 ${photo.width} ${photo.height}`}
        className="mt-2 max-h-[52vh] w-full cursor-crosshair"
        role="button"
        tabIndex={0}
        aria-label="The photo; touch the datum and two ends of a known length. Arrow keys move the cross, Enter touches."
        onKeyDown={(e) => {
          const step = (e.shiftKey ? 0.002 : 0.02) * photo.width
          const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[e.key]
          if (by) setCross(([x, y]) => [x + by[0]!, y + by[1]!])
          else if (e.key === 'Enter') touch(cross)
          else return
          e.preventDefault()
        }}
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect()
          const k = Math.min(box.width / photo.width, box.height / photo.height)
          const x = (e.clientX - box.left - (box.width - photo.width * k) / 2) / k
          const y = (e.clientY - box.top - (box.height - photo.height * k) / 2) / k
          touch([x, y])
        }}
      >
        <image href={`data:image/jpeg;base64,${photo.data}`} width={photo.width} height={photo.height} />
        <path
          d={`M${cross[0] - photo.width / 60} ${cross[1]}h${photo.width / 30}M${cross[0]} ${cross[1] - photo.width / 60}v${photo.width / 30}`}
          stroke="var(--ink)"
          strokeWidth={photo.width / 500}
        />
        {points.map(([x, y], i) => (
          <g
            key={`${x} ${y}`}
            stroke={i === 0 ? 'var(--blue)' : 'var(--pressure)'}
            strokeWidth={photo.width / 250}
            fill="none"
          >
            <circle cx={x} cy={y} r={photo.width / 60} />
            <path
              d={`M${x - photo.width / 40} ${y}h${photo.width / 20}M${x} ${y - photo.width / 40}v${photo.width / 20}`}
            />
          </g>
        ))}
      </svg>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2">
          Distance
          <input
            className="field min-h-11 !w-32"
            value={text}
            placeholder={units.system === 'metric' ? '300 mm' : '12 in'}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <button type="button" className="button button-main" onClick={done}>
          Lay it under
        </button>
        <button type="button" className="link-button" onClick={() => setPoints([])}>
          Touch again
        </button>
        {problem && (
          <span role="alert" className="text-xs font-bold text-stop">
            {problem}
          </span>
        )}
      </div>
    </Dialog>
  )
}
