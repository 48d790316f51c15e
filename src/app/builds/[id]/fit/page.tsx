import { FitStation } from '@/features/fit/fit-station'

export const metadata = { title: 'Fit' }

export default function FitPage() {
  return <FitStation />
}
