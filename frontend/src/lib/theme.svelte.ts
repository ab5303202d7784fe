type Theme = 'light' | 'dark';

/** Light or dark surroundings; pictures stay in the same grey well in both. */
class ThemeChoice {
  now = $state<Theme>('light');

  constructor() {
    if (typeof window === 'undefined') return;
    const kept = localStorage.getItem('theme');
    this.set(kept === 'dark' || kept === 'light' ? kept : matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');
  }

  set(theme: Theme) {
    this.now = theme;
    document.documentElement.dataset.theme = theme;
    localStorage.setItem('theme', theme);
  }

  turn() {
    this.set(this.now === 'dark' ? 'light' : 'dark');
  }
}

export const theme = new ThemeChoice();
