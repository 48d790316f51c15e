import { CircuitStation } from '@/features/circuit/circuit-station'

export const metadata = { title: 'Circuit' }

export default function CircuitPage() {
  return <CircuitStation />
}
