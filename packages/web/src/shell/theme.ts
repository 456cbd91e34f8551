type Theme = 'light' | 'dark'

/** Kept in the browser, because it belongs to the eyes before it, not to the job. */
export function storedTheme(): Theme {
  try {
    const stored = localStorage.getItem('theme')
    if (stored === 'light' || stored === 'dark') return stored
  } catch {
    // A browser that keeps nothing still shows the page.
  }
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme
  try {
    localStorage.setItem('theme', theme)
  } catch {
    // As above.
  }
}
