import { FaultsStation } from '@/features/faults/faults-station'

export default function FaultsPage() {
  return <FaultsStation />
}
