import { create } from 'zustand'

export type ThemeChoice = 'auto' | 'light' | 'cellar'
const KEY = 'even-round.theme'
const CHOICES: readonly ThemeChoice[] = ['auto', 'light', 'cellar']

const stored = (): ThemeChoice => CHOICES.find((choice) => choice === localStorage.getItem(KEY)) ?? 'auto'
const darkOutside = () => window.matchMedia('(prefers-color-scheme: dark)')

function apply(choice: ThemeChoice): void {
  const dark = choice === 'cellar' || (choice === 'auto' && darkOutside().matches)
  document.documentElement.classList.toggle('dark', dark)
}

export const useTheme = create<{ choice: ThemeChoice; choose: (choice: ThemeChoice) => void }>((set) => ({
  choice: stored(),
  choose: (choice) => {
    localStorage.setItem(KEY, choice)
    apply(choice)
    set({ choice })
  },
}))

/** Puts the chosen light on the page and follows the device's own where that was chosen. */
export function startTheme(): void {
  apply(stored())
  darkOutside().addEventListener('change', () => apply(stored()))
}
