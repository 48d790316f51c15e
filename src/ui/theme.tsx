'use client'
import { Moon, Sun } from 'lucide-react'
import { useSyncExternalStore } from 'react'

export const THEME_SCRIPT = `try{var t=localStorage.getItem('ivent-theme')||(matchMedia('(prefers-color-scheme: dark)').matches?'night':'day');document.documentElement.dataset.theme=t}catch(e){}`

const listeners = new Set<() => void>()
const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => {
    listeners.delete(listener)
  }
}
const current = () => document.documentElement.dataset.theme ?? 'day'

export function toggleTheme(): void {
  const next = current() === 'night' ? 'day' : 'night'
  document.documentElement.dataset.theme = next
  try {
    localStorage.setItem('ivent-theme', next)
  } catch {
    /* private browsing: the choice lasts for the page */
  }
  for (const listener of listeners) listener()
}

export function ThemeButton() {
  const theme = useSyncExternalStore(subscribe, current, () => 'day')
  const night = theme === 'night'
  return (
    <button
      type="button"
      className="button-quiet"
      onClick={toggleTheme}
      aria-label={night ? 'Day colours' : 'Night shift colours'}
      title={night ? 'Day colours' : 'Night shift'}
    >
      {night ? <Sun size={18} aria-hidden /> : <Moon size={18} aria-hidden />}
    </button>
  )
}
