import { useEffect } from 'react';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';

type Theme = 'day' | 'night';

interface ThemeState {
  theme: Theme;
  toggle: () => void;
}

/** Day on chart paper or night on water; kept in the browser. */
export const useTheme = create<ThemeState>()(
  persist(
    (set) => ({
      theme: window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day',
      toggle: () => set((s) => ({ theme: s.theme === 'day' ? 'night' : 'day' })),
    }),
    { name: 'ferry-theme' },
  ),
);

/** Puts the theme on the document, for our tokens and for Bootstrap's. */
export function useThemeOnPage() {
  const theme = useTheme((s) => s.theme);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    document.documentElement.dataset.bsTheme = theme === 'night' ? 'dark' : 'light';
  }, [theme]);
}
