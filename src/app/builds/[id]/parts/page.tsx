import { PartsStation } from '@/features/parts/parts-station'

export const metadata = { title: 'Parts' }

export default function PartsPage() {
  return <PartsStation />
}
