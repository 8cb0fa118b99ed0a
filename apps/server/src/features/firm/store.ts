import type { FirmDto, PersonDto } from '@evenround/contract/firm'
import { Firm, type Person } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'

export const firmDto = ({
  firmId,
  name,
  timeZone,
  currency,
  gallon,
  units,
  schools,
  secondFactor,
  cautionsSigned,
  version,
}: Firm): FirmDto => ({
  id: firmId,
  name,
  timeZone,
  currency,
  gallon,
  units,
  schools,
  secondFactor,
  cautionsSigned,
  version,
})

export const personDto = ({ id, name, email, role, skills, van, active, version }: Person): PersonDto => ({
  id,
  name,
  email,
  role,
  skills,
  van,
  active,
  version,
})

/** The firm itself. A session without one is a fault of ours. */
export async function loadFirm(scope: FirmScope): Promise<FirmDto> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  return firmDto(firm)
}
