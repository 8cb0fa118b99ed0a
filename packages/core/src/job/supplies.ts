import { many } from '../words'
import type { JobPlan } from '../disinfection/plan'
import type { JobFigures } from './figures'
import { isWell } from './schools'
import type { Guarded, StepValue } from './steps'

export interface Supply {
  id: string
  /** `{name}` stands for a value. */
  text: string
  values?: Record<string, StepValue>
}

const NEUTRALISERS: Readonly<Record<JobPlan['neutraliser'], string>> = {
  thiosulfate: 'Sodium thiosulfate',
  'ascorbic-acid': 'Ascorbic acid',
  'sodium-ascorbate': 'Sodium ascorbate',
  sulfite: 'Sodium sulfite',
  metabisulfite: 'Sodium metabisulfite',
}
/** A spilt bucket or a second dose must not end the day. */
const SPARE = 1.25

/** What goes into the van, worked out from the job: product, protection, both ranges of strips, new elements, neutraliser, bottle. */
export function supplies(plan: JobPlan, figures: JobFigures, guarded: readonly Guarded[]): Supply[] {
  const parts = guarded.flatMap(({ protection }) => protection.things.filter(({ what }) => what === 'out'))
  const strips = plan.outlets.length * 2 + 4
  return [
    {
      id: 'product',
      text: `${plan.productName}: {amount}, a quarter more than the dose`,
      values: { amount: { kind: 'amount', value: figures.totalAmount * SPARE } },
    },
    { id: 'guard', text: 'Gloves, goggles, apron, eye-wash bottle' },
    { id: 'strips', text: `Strips: about ${strips} high range (0–200) and ${plan.outlets.length + 2} low range (0–10)` },
    guarded.some(({ protection }) => protection.dosedIn !== null)
      ? { id: 'bucket', text: 'Measuring syringe or jug, clean bags for the elements' }
      : { id: 'bucket', text: 'Bucket of {water}, measuring jug', values: { water: { kind: 'litres', value: figures.bucketL } } },
    { id: 'hose', text: isWell(plan.targets) ? 'Hose to reach the casing and a clear place outside, lock and tag' : 'Hose, tags' },
    ...(parts.length > 0
      ? [{ id: 'parts', text: `New elements for ${many(parts.length, 'housing', 'housings')}, seals, grease` }]
      : []),
    {
      id: 'neutraliser',
      text: `${NEUTRALISERS[plan.neutraliser]}: {grams}${plan.discharge === 'neutralised' ? '' : ', should the water have to be neutralised'}`,
      values: { grams: { kind: 'grams', value: figures.neutraliserG } },
    },
    ...(plan.sample
      ? [{ id: 'bottle', text: `Sterile sample bottle${plan.supply === 'municipal' ? ', dechlorinating' : ''}, cold box, on sample day` }]
      : []),
  ]
}
