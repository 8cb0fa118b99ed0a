import type { Site } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'

const MOST = 20
/** Fewer digits are an extension that many share. */
const LEAST_DIGITS = 4

/** Other sites of whoever this one belongs to: reached by the same telephone or e-mail, or asked for by the same full name. */
export function sameCustomer(scope: FirmScope, { id, contact, phone, email }: Site): Promise<{ id: string; name: string }[]> {
  const digits = phone.replace(/\D/g, '')
  const full = contact.trim()
  return scope.query(
    `select s.id, s.name from site s where s.firm_id = $1 and s.id <> $2 and s.gone_at is null and (
       ($3 <> '' and lower(s.email) = lower($3)) or ($4 <> '' and regexp_replace(s.phone, '[^0-9]', '', 'g') = $4)
       or ($5 <> '' and lower(trim(s.contact)) = lower($5))) order by s.name, s.id limit ${MOST}`,
    [id, email.trim(), digits.length >= LEAST_DIGITS ? digits : '', /\s/.test(full) ? full : ''],
  )
}
