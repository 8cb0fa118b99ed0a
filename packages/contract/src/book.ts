import { z } from 'zod'
import { siteSchema, systemSchema, visitRowSchema } from './site'
import { storedFactSchema } from './visit'

export const bookSchema = z.object({ visits: z.array(visitRowSchema), next: z.string().nullable() })
export type BookDto = z.infer<typeof bookSchema>

export const visitPageSchema = z.object({
  visit: visitRowSchema.nullable(),
  site: siteSchema.nullable(),
  system: systemSchema.nullable(),
  facts: z.array(storedFactSchema),
})
export type VisitPageDto = z.infer<typeof visitPageSchema>
