import { ProposalsStation } from '@/features/proposals/proposals-station'

export default function ProposalsPage() {
  return <ProposalsStation />
}
