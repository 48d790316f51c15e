import { CompareView } from '@/features/compare/compare-view'

export const metadata = { title: 'Compare' }

export default function ComparePage() {
  return <CompareView />
}
