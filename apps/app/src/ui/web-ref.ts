import { type RefCallback, useCallback } from 'react'
import type { View } from 'react-native'

/** A view's ref for a library that wants the element behind it; stays the same between renders, as such libraries expect. */
export const useWebRef = (set: (element: HTMLElement | null) => void): RefCallback<View> =>
  useCallback((view: View | null) => set(view instanceof HTMLElement ? view : null), [set])
