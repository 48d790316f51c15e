import type { Metadata } from 'next'
import { GaragePalette } from '@/features/garage/garage-palette'
import { PracticePage } from '@/features/practice/practice-page'
import { LESSONS } from '@/plan/practice/lessons'

export const metadata: Metadata = { title: 'Practice · Ivent' }

export default function Practice() {
  const lessons = LESSONS.map(({ id, title, says, questions }) => ({
    id,
    title,
    says: says[0] ?? '',
    questions: questions.length,
  }))
  return (
    <>
      <PracticePage lessons={lessons} />
      <GaragePalette />
    </>
  )
}
