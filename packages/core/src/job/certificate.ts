import type { JobPlan } from '../disinfection/plan'
import { plannedContact } from './asked'
import { FIRST } from './cautions'
import { jobFigures } from './figures'
import type { Found } from './proof'
import { type JobState, outletKey } from './state'

export const CERTIFICATE_FORMAT = 'even-round/disinfection-certificate/1'

/** What is known about a job outside its facts. */
export interface CertificatePeople {
  firmName: string
  siteName: string
  siteAddress: string
  systems: string[]
  /** Who recorded a fact, by its id. */
  personOf: (factId: string) => string
}

export interface Certificate {
  format: typeof CERTIFICATE_FORMAT
  jobId: string
  firm: string
  site: { name: string; address: string }
  systems: string[]
  targets: string[]
  reason: string
  verdict: 'clean' | 'flushed-not-sampled'
  product: { name: string; availableMgPer: number; unit: 'mL' | 'g' }
  volumeL: number
  computed: boolean
  doses: { at: string; by: string; amount: number; unit: 'mL' | 'g' }[]
  targetMgL: number
  contact: {
    from: string
    hours: number
    achievedMgMinL: number | null
    requiredMgMinL: number
    /** Twice the usual contact was asked for: above pH 8 or below 5 °C. */
    slowWater: boolean
    lastMgL: number | null
    passed: boolean
    note: string | null
    /** Why less than the usual strength × time was planned; null where it was not. */
    lessReason: string | null
  }
  outlets: { name: string; side: 'cold' | 'hot'; arrivalMgL: number | null; clearMgL: number | null; note: string | null }[]
  flushedAt: string
  sample: { takenAt: string; by: string; bottle: string; laboratory: string; place: string; chlorineMgL: number } | null
  result: { reportNumber: string; day: string; totalColiform: Found; eColi: Found; others: { name: string; value: string }[] } | null
  note: string
}

/** The record of a job that is over; null before. Everything in it was measured or is marked as not; without a sample nothing is proved. */
export function certificate(jobId: string, state: JobState, people: CertificatePeople): Certificate | null {
  const { plan, tide, flushedAt, sample } = state
  if ((state.stand !== 'clean' && state.stand !== 'flushed') || plan === null || tide === null || flushedAt === null) return null
  const figures = jobFigures(plan)
  const result = state.results.at(-1)
  return {
    format: CERTIFICATE_FORMAT,
    jobId,
    firm: people.firmName,
    site: { name: people.siteName, address: people.siteAddress },
    systems: people.systems,
    targets: [...plan.targets],
    reason: plan.reason,
    verdict: result ? 'clean' : 'flushed-not-sampled',
    product: { name: plan.productName, availableMgPer: figures.strength.available, unit: figures.unit },
    volumeL: figures.totalL,
    computed: figures.computed,
    doses: state.doses.map(({ id, at, amount, unit }) => ({ at, by: people.personOf(id), amount, unit })),
    targetMgL: plan.targetMgL,
    contact: {
      from: tide.from,
      hours: ((state.contactEnded ? Date.parse(state.contactEnded.at) : Date.parse(flushedAt)) - Date.parse(tide.from)) / 3_600_000,
      achievedMgMinL: tide.result?.achievedMgMinL ?? null,
      requiredMgMinL: tide.asked.mgMinL,
      slowWater: tide.asked.slowWater,
      lastMgL: tide.points.at(-1)?.mgL ?? null,
      passed: tide.result?.verdict === 'pass',
      note: state.contactEnded?.reason ?? null,
      lessReason: plannedContact(plan).less ? plan.contactReason : null,
    },
    outlets: state.outlets.map(({ outlet, arrivalMgL, clearMgL, arrival }) => ({
      name: outlet.name,
      side: outlet.side,
      arrivalMgL,
      clearMgL,
      note: arrival === 'left' ? (state.done.get(outletKey(outlet.id))?.note ?? null) : null,
    })),
    flushedAt,
    sample: sample
      ? {
          takenAt: sample.at,
          by: people.personOf(sample.id),
          bottle: sample.bottle,
          laboratory: sample.laboratory,
          place: sample.place,
          chlorineMgL: sample.chlorineMgL,
        }
      : null,
    result: result
      ? {
          reportNumber: result.reportNumber,
          day: result.day,
          totalColiform: result.totalColiform,
          eColi: result.eColi,
          others: [...result.others],
        }
      : null,
    note: FIRST(),
  }
}

/** When a job is due again, in months: yearly for a source, each season for what stands empty; null for never. */
export const repeatMonths = ({ repeat }: Pick<JobPlan, 'repeat'>): number | null =>
  repeat === 'yearly' ? 12 : repeat === 'seasonal' ? 12 : null
