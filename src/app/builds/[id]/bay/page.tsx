import { BayStation } from '@/features/bay/bay-station'

export default function BayPage() {
  return <BayStation />
}
