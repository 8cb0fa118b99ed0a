import type { JobPlan } from '../disinfection/plan'
import { many, say } from '../words'
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
  get thiosulfate() {
    return say`Sodium thiosulfate`
  },
  get 'ascorbic-acid'() {
    return say`Ascorbic acid`
  },
  get 'sodium-ascorbate'() {
    return say`Sodium ascorbate`
  },
  get sulfite() {
    return say`Sodium sulfite`
  },
  get metabisulfite() {
    return say`Sodium metabisulfite`
  },
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
      text: say`${plan.productName}: {amount}, a quarter more than the dose`,
      values: { amount: { kind: 'amount', value: figures.totalAmount * SPARE } },
    },
    { id: 'guard', text: say`Gloves, goggles, apron, eye-wash bottle` },
    { id: 'strips', text: say`Strips: about ${strips} high range (0–200) and ${plan.outlets.length + 2} low range (0–10)` },
    guarded.some(({ protection }) => protection.dosedIn !== null)
      ? { id: 'bucket', text: say`Measuring syringe or jug, clean bags for the elements` }
      : { id: 'bucket', text: say`Bucket of {water}, measuring jug`, values: { water: { kind: 'litres', value: figures.bucketL } } },
    { id: 'hose', text: isWell(plan.targets) ? say`Hose to reach the casing and a clear place outside, lock and tag` : say`Hose, tags` },
    ...(parts.length > 0 ? [{ id: 'parts', text: say`New elements for ${many(parts.length, 'housing', 'housings')}, seals, grease` }] : []),
    {
      id: 'neutraliser',
      text: say`${NEUTRALISERS[plan.neutraliser]}: {grams}${plan.discharge === 'neutralised' ? '' : say`, should the water have to be neutralised`}`,
      values: { grams: { kind: 'grams', value: figures.neutraliserG } },
    },
    ...(plan.sample
      ? [
          {
            id: 'bottle',
            text: say`Sterile sample bottle${plan.supply === 'municipal' ? say`, dechlorinating` : ''}, cold box, on sample day`,
          },
        ]
      : []),
  ]
}
