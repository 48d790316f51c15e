import { EngineStation } from '@/features/engine/engine-station'

export default function EnginePage() {
  return <EngineStation />
}
