import { useState } from 'react'
import { problemText } from '../../data/api'
import { queryClient } from '../../data/queries'

/** An act on the firm itself: a refusal is said beside it, and either way every screen shows what stands now. */
export function useFirmAct() {
  const [problem, setProblem] = useState<string | null>(null)
  const act = async (work: () => Promise<unknown>): Promise<void> => {
    setProblem(null)
    try {
      await work()
    } catch (error) {
      setProblem(problemText(error))
    }
    await queryClient.invalidateQueries()
  }
  return { problem, setProblem, act }
}
