import type { Right } from '@evenround/core/firm'
import { useMe } from './queries'

/** Whether this person may do what the right names; the server asks the same again. */
export const useMay = (right: Right): boolean => useMe().data?.rights.includes(right) === true
