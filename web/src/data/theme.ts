const KEY = 'warper-theme';

/** The colours that were on last; day where nothing is kept or storage is refused. */
export function keptTheme(): 'day' | 'night' {
  try {
    return localStorage.getItem(KEY) === 'night' ? 'night' : 'day';
  } catch {
    return 'day';
  }
}

/** Keeps the colours for the next visit, where storage allows it. */
export function keepTheme(theme: 'day' | 'night'): void {
  try {
    localStorage.setItem(KEY, theme);
  } catch {
    // A browser that refuses storage shows the day again next time.
  }
}
