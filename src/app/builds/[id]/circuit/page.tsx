import { CircuitStation } from '@/features/circuit/circuit-station'

export default function CircuitPage() {
  return <CircuitStation />
}
