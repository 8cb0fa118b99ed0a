import type { LaboratoryLineDto } from '@evenround/contract/disinfections'
import { say } from '@evenround/core/words'
import { ApiProblem, api, ask } from '../../data/api'

/** The laboratory's file for this job's bottles, as it is by now. */
export async function laboratoryText(jobId: string): Promise<string> {
  const response = await fetch(`/api/disinfections/${jobId}/laboratory`).catch(() => {
    throw new ApiProblem('OFFLINE', say`No connection: the laboratory is asked when there is one, or type its result.`, true)
  })
  if (!response.ok) throw new ApiProblem('INTERNAL', say`The laboratory could not be asked. Try again, or open its file.`, true)
  return response.text()
}

/** What stands in a laboratory's file; files are read by the server, where the reader of lists is. */
export const readFile = (text: string): Promise<{ lines: LaboratoryLineDto[]; problems: { line: number; text: string }[] }> =>
  ask(api.laboratory.read.$post({ json: { text } }))
