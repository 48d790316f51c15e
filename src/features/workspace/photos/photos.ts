'use client'
/** Photographs of a build: rows of their own beside the document, told apart by what they are of. */
import { useCallback, useEffect, useState } from 'react'
import { useWorkspace } from '../store'

export type Photo = { readonly id: string; readonly name: string; readonly about: string }

/** Longest side that is kept, px, and how well: a thumb's width of bolt is still seen. */
const [LONGEST, QUALITY] = [1600, 0.82]

/** A picture made smaller where it is larger than anyone needs at the car; fails with a sentence where it is no picture. */
export async function smaller(
  file: File,
): Promise<{ readonly data: string; readonly width: number; readonly height: number }> {
  if (!file.type.startsWith('image/')) throw new Error(`${file.name} is no picture.`)
  const bitmap = await createImageBitmap(file).catch(() => undefined)
  if (!bitmap) throw new Error(`${file.name} cannot be read as a picture.`)
  const scale = Math.min(1, LONGEST / Math.max(bitmap.width, bitmap.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(bitmap.width * scale))
  canvas.height = Math.max(1, Math.round(bitmap.height * scale))
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0, canvas.width, canvas.height)
  bitmap.close()
  const url = canvas.toDataURL('image/jpeg', QUALITY)
  return { data: url.slice(url.indexOf(',') + 1), width: canvas.width, height: canvas.height }
}

/** Pictures of one thing, and how one is added or taken away; a sentence when that did not work. */
export function usePhotos(of: string) {
  const build = useWorkspace((s) => s.id)
  const base = `/api/builds/${build}/attachments`
  const [photos, setPhotos] = useState<readonly Photo[]>([])
  const [trouble, setTrouble] = useState<string | undefined>(undefined)
  const [busy, setBusy] = useState(false)
  const list = useCallback(async () => {
    const response = await fetch(base).catch(() => undefined)
    if (!response?.ok) return
    const all = (await response.json()) as readonly Photo[]
    setPhotos(all.filter((p) => p.about === of || p.about.startsWith(`${of} `)))
  }, [base, of])
  useEffect(() => {
    const timer = setTimeout(() => void list())
    return () => clearTimeout(timer)
  }, [list])
  const add = async (name: string, data: string, more = '') => {
    setBusy(true)
    const response = await fetch(base, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: name.slice(0, 120), type: 'image/jpeg', about: `${of}${more}`, data }),
    }).catch(() => undefined)
    const reply = response?.ok
      ? undefined
      : ((await response?.json().catch(() => undefined)) as { error?: string } | undefined)
    setBusy(false)
    setTrouble(response?.ok ? undefined : (reply?.error ?? 'Ivent does not answer: the picture was not kept.'))
    await list()
  }
  const addFile = async (file: File) => {
    try {
      await add(file.name, (await smaller(file)).data)
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'The picture was not kept.')
    }
  }
  const remove = async (id: string) => {
    const response = await fetch(`${base}/${id}`, { method: 'DELETE' }).catch(() => undefined)
    setTrouble(response?.ok ? undefined : 'Ivent does not answer: the picture stays.')
    await list()
  }
  return { photos, trouble, busy, add, addFile, remove, urlOf: (p: Photo) => `${base}/${p.id}` }
}
