import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import { GaragePalette } from '@/features/garage/garage-palette'
import { LessonPage } from '@/features/practice/lesson-page'
import { LESSONS } from '@/plan/practice/lessons'
import { today } from '@/server/today'

type Asked = { readonly params: Promise<{ readonly lesson: string }> }
const lessonIn = async ({ params }: Asked) => {
  const { lesson } = await params
  return LESSONS.findIndex((l) => l.id === lesson)
}

export async function generateMetadata(asked: Asked): Promise<Metadata> {
  const lesson = LESSONS[await lessonIn(asked)]
  return { title: `${lesson ? lesson.title : 'No such lesson'} · Practice · Ivent` }
}

export default async function Lesson(asked: Asked) {
  const at = await lessonIn(asked)
  const lesson = LESSONS[at]
  if (!lesson) notFound()
  const next = LESSONS[at + 1]
  return (
    <>
      <LessonPage key={lesson.id} lesson={lesson} next={next && { id: next.id, title: next.title }} today={today()} />
      <GaragePalette />
    </>
  )
}
