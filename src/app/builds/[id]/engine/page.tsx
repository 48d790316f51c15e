import { EngineStation } from '@/features/engine/engine-station'

export const metadata = { title: 'Engine' }

export default function EnginePage() {
  return <EngineStation />
}
