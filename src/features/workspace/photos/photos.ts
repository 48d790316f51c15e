'use client'
/** Photographs of a build: rows of their own beside the document, told apart by what they are of. */
import { useEffect, useState, useSyncExternalStore } from 'react'
import { base64Of } from '@/ui/base64'
import { useLive } from '../../live/live'
import { useWorkspace } from '../store'

export type Photo = { readonly id: string; readonly name: string; readonly about: string }

/** Longest side that is kept, px, and how well: a thumb's width of bolt is still seen. */
const [LONGEST, QUALITY] = [1600, 0.82]

const baseOf = (build: string) => `/api/builds/${build}/attachments`
const NONE: readonly Photo[] = []

/** All photographs of the build that is open: read once, whatever asks for some of them. */
let list: { readonly build: string; readonly photos: readonly Photo[] } = { build: '', photos: NONE }
let reading: string | undefined
const watchers = new Set<() => void>()

async function readPhotos(build: string): Promise<void> {
  reading = build
  const response = await fetch(baseOf(build)).catch(() => undefined)
  if (!response?.ok || reading !== build) return
  list = { build, photos: (await response.json()) as readonly Photo[] }
  for (const watcher of watchers) watcher()
}
function watch(watcher: () => void): () => void {
  watchers.add(watcher)
  return () => {
    watchers.delete(watcher)
  }
}

/**
 * A picture as it is kept: upright, no larger than anyone needs at the car, and with nothing in it of where and with what it was taken. Fails
 * with a sentence where it is no picture.
 */
export async function shrunkPhoto(
  file: File,
): Promise<{ readonly data: string; readonly width: number; readonly height: number }> {
  if (!file.type.startsWith('image/')) throw new Error(`${file.name} is no picture.`)
  const { default: Compressor } = await import('compressorjs')
  const blob = await new Promise<Blob>((resolve, reject) => {
    // it begins at once, and answers by what it is given here
    // oxlint-disable-next-line no-new
    new Compressor(file, {
      quality: QUALITY,
      maxWidth: LONGEST,
      maxHeight: LONGEST,
      mimeType: 'image/jpeg',
      convertTypes: [],
      // never the file as it came, which says where it was taken
      strict: false,
      retainExif: false,
      success: resolve,
      error: reject,
    })
  }).catch(() => undefined)
  const bitmap = blob && (await createImageBitmap(blob).catch(() => undefined))
  if (!blob || !bitmap) throw new Error(`${file.name} cannot be read as a picture.`)
  const { width, height } = bitmap
  bitmap.close()
  const data = await base64Of(blob).catch(() => {
    throw new Error(`${file.name} cannot be read as a picture.`)
  })
  return { data, width, height }
}

/**
 * Pictures of one thing, and how one is added or taken away; a sentence when that did not work.
 * @param more whether what follows the thing's name is a note on the picture, as of one that is laid under a view
 */
export function usePhotos(of: string, more = false) {
  const build = useWorkspace((s) => s.id)
  const base = baseOf(build)
  const all = useSyncExternalStore(
    watch,
    () => (list.build === build ? list.photos : NONE),
    () => NONE,
  )
  const [trouble, setTrouble] = useState<string | undefined>(undefined)
  const [busy, setBusy] = useState(false)
  useEffect(() => {
    if (reading !== build) void readPhotos(build)
  }, [build])
  const photos = all.filter((p) => p.about === of || (more && p.about.startsWith(`${of} `)))
  const add = async (name: string, data: string, note = '', type = 'image/jpeg') => {
    setBusy(true)
    const response = await fetch(base, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: name.slice(0, 120), type, about: `${of}${note}`, data }),
    }).catch(() => undefined)
    const reply = response?.ok
      ? undefined
      : ((await response?.json().catch(() => undefined)) as { error?: string } | undefined)
    setBusy(false)
    setTrouble(response?.ok ? undefined : (reply?.error ?? 'Ivent does not answer: the picture was not kept.'))
    await readPhotos(build)
  }
  const addFile = async (file: File) => {
    try {
      await add(file.name, (await shrunkPhoto(file)).data)
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'The picture was not kept.')
    }
  }
  const change = async (id: string, init: RequestInit, otherwise: string) => {
    const response = await fetch(`${base}/${id}`, init).catch(() => undefined)
    const reply = response?.ok
      ? undefined
      : ((await response?.json().catch(() => undefined)) as { error?: string } | undefined)
    setTrouble(response?.ok ? undefined : (reply?.error ?? otherwise))
    await readPhotos(build)
  }
  const remove = (id: string) => change(id, { method: 'DELETE' }, 'Ivent does not answer: it stays.')
  const rename = (id: string, name: string) =>
    change(
      id,
      { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name }) },
      'Ivent does not answer: it keeps its name.',
    )
  return { photos, trouble, busy, add, addFile, remove, rename, urlOf: (p: Photo) => `${base}/${p.id}` }
}

/** Follows what other devices add and take away, while a build is open. */
export function useLivePhotos(): void {
  const build = useWorkspace((s) => s.id)
  useLive((message) => {
    const missed = message.kind === 'hello' || (message.kind === 'photos' && message.build === build)
    // where nobody has asked for them there is nothing to follow
    if (missed && reading === build) void readPhotos(build)
  })
}
