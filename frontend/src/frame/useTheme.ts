import { useEffect } from 'react'
import { useKept } from '../ui/useKept'

type Theme = 'light' | 'dark'

/** The theme: what the person chose, else what the system prefers. */
export function useTheme(): [Theme, (theme: Theme) => void] {
  const [chosen, choose] = useKept<Theme | null>('theme', null)
  const prefersDark = window.matchMedia('(prefers-color-scheme: dark)').matches
  const theme = chosen ?? (prefersDark ? 'dark' : 'light')
  useEffect(() => {
    document.documentElement.dataset.theme = theme
  }, [theme])
  return [theme, choose]
}
