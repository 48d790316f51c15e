import { CompareView } from '@/features/compare/compare-view'

export default function ComparePage() {
  return <CompareView />
}
