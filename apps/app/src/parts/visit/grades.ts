import type { FoundGrade } from '@evenround/core/wear'

/** The five grades of what came out, with words and how full they are drawn. */
export const GRADES: readonly { grade: FoundGrade; word: string; says: string; fill: number }[] = [
  { grade: 'as-new', word: 'as new', says: 'clean', fill: 0.04 },
  { grade: 'light', word: 'light', says: 'lightly used', fill: 0.25 },
  { grade: 'as-expected', word: 'expected', says: 'used as expected', fill: 0.5 },
  { grade: 'heavy', word: 'heavy', says: 'heavily loaded', fill: 0.75 },
  { grade: 'spent', word: 'spent', says: 'done before today', fill: 1 },
]

export const gradeWord = (found: FoundGrade): string => GRADES.find(({ grade }) => grade === found)?.word ?? found
