import { FitStation } from '@/features/fit/fit-station'

export default function FitPage() {
  return <FitStation />
}
