import { redirect } from 'next/navigation'

export default async function BuildPage({ params }: { params: Promise<{ id: string }> }) {
  redirect(`/builds/${(await params).id}/circuit`)
}
