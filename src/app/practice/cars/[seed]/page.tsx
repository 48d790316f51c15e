import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { GaragePalette } from '@/features/garage/garage-palette'
import { HuntPage } from '@/features/practice/hunt-page'

type Asked = { readonly params: Promise<{ readonly seed: string }> }

export async function generateMetadata({ params }: Asked): Promise<Metadata> {
  return { title: `Car ${(await params).seed} · Practice · Ivent` }
}

export default async function Car({ params }: Asked) {
  const { seed } = await params
  if (!/^\d{1,6}$/.test(seed)) notFound()
  return (
    <>
      <HuntPage key={seed} seed={Number(seed)} />
      <GaragePalette />
    </>
  )
}
