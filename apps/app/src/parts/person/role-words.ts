import type { Role } from '@evenround/core/firm'
import { midSentence, say } from '@evenround/core/words'

export const ROLE_WORDS: Record<Role, string> = {
  technician: say`Technician`,
  planner: say`Planner`,
  owner: say`Owner`,
  viewer: say`Viewer`,
}

/** A role inside a line: "technician". */
export const roleWord = (role: string): string => (role in ROLE_WORDS ? midSentence(ROLE_WORDS[role as Role]) : role)
