import { ApiProblem } from '../../data/api'

/** The laboratory's file for this job's bottles, as it is by now. */
export async function laboratoryText(jobId: string): Promise<string> {
  const response = await fetch(`/api/disinfections/${jobId}/laboratory`).catch(() => {
    throw new ApiProblem('OFFLINE', 'No connection: the laboratory is asked when there is one, or type its result.', true)
  })
  if (!response.ok) throw new ApiProblem('INTERNAL', 'The laboratory could not be asked. Try again, or open its file.', true)
  return response.text()
}

/** The rows of a CSV file; the reader comes only when a file does. */
export async function rowsOf(text: string): Promise<string[][]> {
  const { default: Papa } = await import('papaparse')
  return Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true }).data
}
