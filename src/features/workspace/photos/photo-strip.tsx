'use client'
/** Pictures of one thing, small; one more from the camera. */
import { Camera, X } from 'lucide-react'
import { FileButton } from '@/ui/file-button'
import { usePhotos } from './photos'

export function PhotoStrip({ of, what, small = false }: { of: string; what: string; small?: boolean }) {
  const { photos, trouble, busy, addFile, remove, urlOf } = usePhotos(of)
  return (
    <span className={`no-print flex-wrap items-center gap-2 ${small ? 'inline-flex align-middle' : 'mt-1 flex'}`}>
      {photos.map((p) => (
        <span key={p.id} className="relative">
          <a href={urlOf(p)} target="_blank" rel="noreferrer" aria-label={`${p.name}, full size`}>
            {/* rows of the store: nothing that an optimiser could fetch */}
            {/* oxlint-disable-next-line nextjs/no-img-element */}
            <img src={urlOf(p)} alt={p.name} className="h-16 border border-rule" loading="lazy" />
          </a>
          <button
            type="button"
            className="absolute -right-2 -top-2 grid size-6 place-items-center rounded-full border border-ink bg-sheet"
            aria-label={`Take ${p.name} away`}
            onClick={() => void remove(p.id)}
          >
            <X size={14} aria-hidden />
          </button>
        </span>
      ))}
      <FileButton
        accept="image/*"
        label={`Photo of ${what}`}
        className={`inline-flex items-center gap-1 ${small ? '' : 'min-h-11'}`}
        onFile={(file) => void addFile(file)}
      >
        <Camera size={small ? 16 : 18} aria-hidden />{' '}
        <span className={small && !busy ? 'sr-only' : ''}>{busy ? 'Keeping it…' : 'Photo'}</span>
      </FileButton>
      {trouble && (
        <span role="alert" className="text-xs font-bold text-stop">
          {trouble}
        </span>
      )}
    </span>
  )
}
