import type { Metadata } from 'next'
import { Reference } from '@/features/reference/reference'

export const metadata: Metadata = { title: 'Reference' }

export default function ReferencePage() {
  return <Reference />
}
