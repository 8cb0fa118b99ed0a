import type { FirmDto } from '@evenround/contract/firm'
import { type Language, say } from '@evenround/core/words'
import type { FirmScope } from '../../db/scope'
import { type AuditDeed, record } from '../records/audit'
import { loadFirm } from './store'

interface Signing {
  language: Language
  mark: string
  reader: string
  personId: string
  name: string
}

/** A language's cautions stand without their English from now on, in the words this mark is of; who read them is recorded for good. */
export async function signCautions(
  scope: FirmScope,
  { language, mark, reader, personId, name }: Signing,
  { id, at }: Pick<AuditDeed, 'id' | 'at'>,
): Promise<FirmDto> {
  const signed = { mark, reader, by: name, at: at.toISOString() }
  await scope.query(
    'update firm set cautions_signed = cautions_signed || jsonb_build_object($2::text, $3::jsonb), version = version + 1 where firm_id = $1',
    [language, JSON.stringify(signed)],
  )
  const said = say`Cautions in ${language} signed off, read by ${reader}.`
  await record(scope, { id, at, personId, what: 'cautions-signed', about: null, said })
  return loadFirm(scope)
}

/** The English stands beside them again. */
export async function unsignCautions(scope: FirmScope, language: Language): Promise<FirmDto> {
  await scope.query('update firm set cautions_signed = cautions_signed - $2::text, version = version + 1 where firm_id = $1', [language])
  return loadFirm(scope)
}
