import { BayStation } from '@/features/bay/bay-station'

export const metadata = { title: 'Bay' }

export default function BayPage() {
  return <BayStation />
}
