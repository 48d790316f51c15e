import { PartsStation } from '@/features/parts/parts-station'

export default function PartsPage() {
  return <PartsStation />
}
