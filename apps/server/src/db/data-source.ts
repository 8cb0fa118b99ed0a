import 'reflect-metadata'
import { DataSource } from 'typeorm'
import { MediumProfile, OwnKindRow, PartEquivalent } from './entities/catalogue'
import { ChlorineProduct, Disinfection } from './entities/disinfection'
import { FACT_TABLES, FactReceipt } from './entities/facts'
import { Intake } from './entities/intake'
import { Firm, Part, Person, Site, Stage, Stop, StopTask, System, TrainVersion } from './entities/master'
import {
  CrossingRow,
  DayOffRow,
  Place,
  RoundDraft,
  RoundExtra,
  RoundMarkRow,
  RoundPublication,
  RoundRunRow,
  RoundSetRow,
  SiteHoursRow,
  WorkTimeRow,
} from './entities/round'
import { DueRuleRow, Occupancy, StageForecast, StaleStage, StatedUseRow } from './entities/wear'
import { YearPlanRow } from './entities/year'
import { Foundation0001 } from './migrations/0001-foundation'
import { Wear0002 } from './migrations/0002-wear'
import { Telemetry0003 } from './migrations/0003-telemetry'
import { Intake0004 } from './migrations/0004-intake'
import { Catalogue0005 } from './migrations/0005-catalogue'
import { Photo0006 } from './migrations/0006-photo'
import { DueSearch0007 } from './migrations/0007-due-search'
import { Visit0008 } from './migrations/0008-visit'
import { Disinfection0009 } from './migrations/0009-disinfection'
import { Round0010 } from './migrations/0010-round'
import { Steps0011 } from './migrations/0011-steps'
import { Sessions0012 } from './migrations/0012-sessions'
import { DayToChange0013 } from './migrations/0013-day-to-change'
import { SetsAsWritten0014 } from './migrations/0014-sets-as-written'
import { ChangingVisits0015 } from './migrations/0015-changing-visits'
import { Stabilised0016 } from './migrations/0016-stabilised'
import { NotRight0017 } from './migrations/0017-not-right'
import { FromTheDoor0018 } from './migrations/0018-from-the-door'
import { OwnKinds0019 } from './migrations/0019-own-kinds'
import { Beginning0020 } from './migrations/0020-beginning'
import { Places0021 } from './migrations/0021-places'
import { Search0022 } from './migrations/0022-search'
import { DemoAway0023 } from './migrations/0023-demo-away'
import { Crossings0024 } from './migrations/0024-crossings'
import { TakingOut0025 } from './migrations/0025-taking-out'
import { Customers0026 } from './migrations/0026-customers'
import { Office0027 } from './migrations/0027-office'
import { Contacts0028 } from './migrations/0028-contacts'
import { Moving0029 } from './migrations/0029-moving'
import { SecondFactor0030 } from './migrations/0030-second-factor'
import { ListsAtWork0031 } from './migrations/0031-lists-at-work'
import { BarCodes0032 } from './migrations/0032-bar-codes'
import { PhotosOfSystems0033 } from './migrations/0033-photos-of-systems'
import { WaysEstimated0034 } from './migrations/0034-ways-estimated'
import { PlansOffered0035 } from './migrations/0035-plans-offered'
import { FixedIntervals0036 } from './migrations/0036-fixed-intervals'
import { SerialNumbers0037 } from './migrations/0037-serial-numbers'
import { Survival0038 } from './migrations/0038-survival'
import { CautionsSigned0039 } from './migrations/0039-cautions-signed'
import { Limits0040 } from './migrations/0040-limits'
import { Backups0041 } from './migrations/0041-backups'
import { Looks0042 } from './migrations/0042-looks'
import { Revisions0043 } from './migrations/0043-revisions'
import { WhoAsks0044 } from './migrations/0044-who-asks'
import { YearPlans0045 } from './migrations/0045-year-plans'
import { Roads0046 } from './migrations/0046-roads'
import { SnakeNames } from './naming'
import { APP_ROLE } from './roles'

const ENTITIES = [
  Firm,
  Person,
  Site,
  System,
  TrainVersion,
  Part,
  Stage,
  Stop,
  StopTask,
  FactReceipt,
  Intake,
  MediumProfile,
  OwnKindRow,
  PartEquivalent,
  Occupancy,
  StageForecast,
  StaleStage,
  DueRuleRow,
  StatedUseRow,
  Disinfection,
  ChlorineProduct,
  CrossingRow,
  Place,
  WorkTimeRow,
  DayOffRow,
  SiteHoursRow,
  RoundMarkRow,
  RoundExtra,
  RoundSetRow,
  RoundDraft,
  RoundPublication,
  RoundRunRow,
  YearPlanRow,
  ...Object.values(FACT_TABLES),
]
export const MIGRATIONS = [
  Foundation0001,
  Wear0002,
  Telemetry0003,
  Intake0004,
  Catalogue0005,
  Photo0006,
  DueSearch0007,
  Visit0008,
  Disinfection0009,
  Round0010,
  Steps0011,
  Sessions0012,
  DayToChange0013,
  SetsAsWritten0014,
  ChangingVisits0015,
  Stabilised0016,
  NotRight0017,
  FromTheDoor0018,
  OwnKinds0019,
  Beginning0020,
  Places0021,
  Search0022,
  DemoAway0023,
  Crossings0024,
  TakingOut0025,
  Customers0026,
  Office0027,
  Contacts0028,
  Moving0029,
  SecondFactor0030,
  ListsAtWork0031,
  BarCodes0032,
  PhotosOfSystems0033,
  WaysEstimated0034,
  PlansOffered0035,
  FixedIntervals0036,
  SerialNumbers0037,
  Survival0038,
  CautionsSigned0039,
  Limits0040,
  Backups0041,
  Looks0042,
  Revisions0043,
  WhoAsks0044,
  YearPlans0045,
  Roads0046,
]

interface DatabaseOptions {
  url: string
  /** Take on the server's role after signing in, where the address belongs to the owner of the tables. */
  asAppRole?: boolean
  poolSize?: number
  /** A database that is there answers at once, but a process that computes for some seconds reads the answer late. */
  connectSeconds?: number
  onPoolError?: (error: unknown) => void
}

/** A data source on this address; the schema only ever changes by migration. */
export function dataSource({
  url,
  asAppRole = false,
  poolSize = 10,
  connectSeconds = 10,
  onPoolError = () => undefined,
}: DatabaseOptions): DataSource {
  return new DataSource({
    type: 'postgres',
    url,
    entities: ENTITIES,
    migrations: MIGRATIONS,
    migrationsTableName: 'schema_migration',
    namingStrategy: new SnakeNames(),
    synchronize: false,
    connectTimeoutMS: connectSeconds * 1000,
    poolSize,
    poolErrorHandler: onPoolError,
    extra: {
      statement_timeout: 15_000,
      idleTimeoutMillis: 30_000,
      // Tables that are asked for all day stand in memory: a page by an index costs hardly more than the next one.
      options: `-c random_page_cost=1.1${asAppRole ? ` -c role=${APP_ROLE}` : ''}`,
    },
  })
}
