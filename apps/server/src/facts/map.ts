import type { StoredFact } from '@evenround/contract/visit'
import { tds } from '@evenround/core/readings'
import type { Fact, FactKind, Rated } from '@evenround/core/visit'
import type {
  FactChlorineDosed,
  FactHoldBegun,
  FactHoldLifted,
  FactJobDayEnded,
  FactJobPlanned,
  FactPartFitted,
  FactPartRemoved,
  FactRow,
  FactSampleResult,
  FactSampleTaken,
  FactStageReading,
  FactStepDone,
  FactStepSurprise,
  FactStripRead,
  FactTdsReading,
  FactTimerStarted,
  FactVisitBegun,
  FactVisitFinished,
} from '../db/entities/facts'

type Columns = Record<string, unknown>

const stageReadingFields = ({
  systemId,
  stageId,
  phase,
  counterL,
  counterStartedOver,
  inKpa,
  outKpa,
  flowLMin,
  cleanFlowLMin,
  chlorineAfterMgL,
  lampHours,
  intensityPercent,
  productLMin,
  waterC,
}: OwnFields<'stage-reading'>): OwnFields<'stage-reading'> => ({
  systemId,
  stageId,
  phase,
  counterL,
  counterStartedOver,
  inKpa,
  outKpa,
  flowLMin,
  cleanFlowLMin,
  chlorineAfterMgL,
  lampHours,
  intensityPercent,
  productLMin,
  waterC,
})

/** The columns of a fact's own table, beside those all facts share. */
export function ownColumns(fact: Fact): Columns {
  switch (fact.kind) {
    case 'visit-begun':
      return {
        stopId: fact.stopId,
        systemId: fact.systemId,
        trainVersion: fact.trainVersion,
        engineVersion: fact.engineVersion,
        tasks: fact.tasks,
      }
    case 'tds-reading': {
      const { systemId, phase, water, display, multiplier, quantity, scale, compensated, temperatureC, settled, keptDespiteDoubt } = fact
      const { tdsMgL } = tds({ display, multiplier, quantity, scale, compensated, temperatureC })
      return { systemId, phase, water, display, multiplier, quantity, scale, compensated, temperatureC, settled, keptDespiteDoubt, tdsMgL }
    }
    case 'stage-reading':
      return { ...stageReadingFields(fact) }
    case 'step-done':
      return { stepKey: fact.stepKey, answer: fact.answer }
    case 'step-surprise':
      return { stepKey: fact.stepKey, answer: fact.answer }
    case 'timer-started':
      return { stepKey: fact.stepKey, seconds: fact.seconds }
    case 'part-removed':
      return { stageId: fact.stageId, found: fact.found, dirtPast: fact.dirtPast }
    case 'part-fitted': {
      const { stageId, partId, partNumber, position, markText, dateKnown, rated } = fact
      return {
        stageId,
        partId,
        partNumber,
        position,
        markText,
        dateKnown,
        ratedDays: rated.days,
        ratedLitres: rated.litres,
        ratedMilliequivalents: rated.milliequivalents,
        ratedHours: rated.hours,
      }
    }
    case 'hold-begun':
      return { holdKind: fact.holdKind, until: fact.until === null ? null : new Date(fact.until), text: fact.text }
    case 'hold-lifted':
      return { holdId: fact.holdId, proof: fact.proof }
    case 'visit-finished':
      return { outcome: fact.outcome, monitorReset: fact.monitorReset, customerTold: fact.customerTold, note: fact.note }
    case 'job-planned':
    case 'chlorine-dosed':
    case 'strip-read':
    case 'sample-taken':
    case 'sample-result':
    case 'job-day-ended':
      return { ...READ[fact.kind](fact as never) }
  }
}

export const ratedOf = (row: Pick<FactPartFitted, 'ratedDays' | 'ratedLitres' | 'ratedMilliequivalents' | 'ratedHours'>): Rated => ({
  days: row.ratedDays,
  litres: row.ratedLitres,
  milliequivalents: row.ratedMilliequivalents,
  hours: row.ratedHours,
})

type OwnFields<K extends FactKind> = Omit<Extract<Fact, { kind: K }>, keyof import('@evenround/core/visit').FactBase | 'kind'>
type RowOf = {
  'visit-begun': FactVisitBegun
  'tds-reading': FactTdsReading
  'stage-reading': FactStageReading
  'step-done': FactStepDone
  'step-surprise': FactStepSurprise
  'timer-started': FactTimerStarted
  'part-removed': FactPartRemoved
  'part-fitted': FactPartFitted
  'hold-begun': FactHoldBegun
  'hold-lifted': FactHoldLifted
  'visit-finished': FactVisitFinished
  'job-planned': FactJobPlanned
  'chlorine-dosed': FactChlorineDosed
  'strip-read': FactStripRead
  'sample-taken': FactSampleTaken
  'sample-result': FactSampleResult
  'job-day-ended': FactJobDayEnded
}

const READ: { [K in FactKind]: (row: RowOf[K]) => OwnFields<K> } = {
  'visit-begun': ({ stopId, systemId, trainVersion, engineVersion, tasks }) => ({ stopId, systemId, trainVersion, engineVersion, tasks }),
  'tds-reading': ({
    systemId,
    phase,
    water,
    display,
    multiplier,
    quantity,
    scale,
    compensated,
    temperatureC,
    settled,
    keptDespiteDoubt,
  }) => ({
    systemId,
    phase,
    water,
    display,
    multiplier,
    quantity,
    scale,
    compensated,
    temperatureC,
    settled,
    keptDespiteDoubt,
  }),
  'stage-reading': stageReadingFields,
  'step-done': ({ stepKey, answer }) => ({ stepKey, answer }),
  'step-surprise': ({ stepKey, answer }) => ({ stepKey, answer }),
  'timer-started': ({ stepKey, seconds }) => ({ stepKey, seconds }),
  'part-removed': ({ stageId, found, dirtPast }) => ({ stageId, found, dirtPast }),
  'part-fitted': (row) => ({
    stageId: row.stageId,
    partId: row.partId,
    partNumber: row.partNumber,
    position: row.position,
    markText: row.markText,
    dateKnown: row.dateKnown,
    rated: ratedOf(row),
  }),
  'hold-begun': ({ holdKind, until, text }) => ({ holdKind, until: until?.toISOString() ?? null, text }),
  'hold-lifted': ({ holdId, proof }) => ({ holdId, proof }),
  'visit-finished': ({ outcome, monitorReset, customerTold, note }) => ({ outcome, monitorReset, customerTold, note }),
  'job-planned': ({ plan }) => ({ plan }),
  'chlorine-dosed': ({ stepKey, amount, unit }) => ({ stepKey, amount, unit }),
  'strip-read': ({ place, purpose, method, range, mgL, dilution }) => ({ place, purpose, method, range, mgL, dilution }),
  'sample-taken': ({ bottle, laboratory, place, dechlorinating, chlorineMgL }) => ({
    bottle,
    laboratory,
    place,
    dechlorinating,
    chlorineMgL,
  }),
  'sample-result': ({ sampleId, totalColiform, eColi, others, reportNumber, day }) => ({
    sampleId,
    totalColiform,
    eColi,
    others,
    reportNumber,
    day,
  }),
  'job-day-ended': ({ day, outcome, note }) => ({ day, outcome, note }),
}

/** A row of a fact table as it goes over the wire. */
export function storedFact<K extends FactKind>(kind: K, row: RowOf[K]): StoredFact {
  const shared: FactRow = row
  const { id, seq, siteId, visitId, supersedes, voided } = shared
  const fact = { kind, id, at: shared.at.toISOString(), seq, siteId, visitId, supersedes, voided, ...READ[kind](row) } as unknown as Fact
  return { fact, arrivedAt: shared.arrivedAt.toISOString(), personId: shared.personId, flags: shared.flags }
}
