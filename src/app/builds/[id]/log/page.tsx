import { LogStation } from '@/features/log/log-station'

export default function LogPage() {
  return <LogStation />
}
