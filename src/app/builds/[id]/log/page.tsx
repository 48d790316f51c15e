import { LogStation } from '@/features/log/log-station'

export const metadata = { title: 'Log' }

export default function LogPage() {
  return <LogStation />
}
