import type { FoundGrade } from '@evenround/core/wear'
import { say } from '@evenround/core/words'

/** The five grades of what came out, with words and how full they are drawn. */
export const GRADES: readonly { grade: FoundGrade; word: string; says: string; fill: number }[] = [
  { grade: 'as-new', word: say`as new`, says: say`clean`, fill: 0.04 },
  { grade: 'light', word: say`light`, says: say`lightly used`, fill: 0.25 },
  { grade: 'as-expected', word: say`expected`, says: say`used as expected`, fill: 0.5 },
  { grade: 'heavy', word: say`heavy`, says: say`heavily loaded`, fill: 0.75 },
  { grade: 'spent', word: say`spent`, says: say`done before today`, fill: 1 },
]

export const gradeWord = (found: FoundGrade): string => GRADES.find(({ grade }) => grade === found)?.word ?? found
