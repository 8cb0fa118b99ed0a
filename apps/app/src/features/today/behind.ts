/** Less than this nobody needs to be told of. */
export const WORTH_TELLING_MIN = 10
/** So long after its end the day is over, not late. */
export const STILL_THE_DAY_MIN = 120

/** Minutes behind the plan, 0 or more: a stop that is begun ends now at the earliest, one that is not is left for now at the earliest. */
export const behindPlan = (
  { leaveMin, arriveMin, workMin }: { leaveMin: number; arriveMin: number; workMin: number },
  begun: boolean,
  nowMin: number,
): number => Math.max(0, nowMin - (begun ? arriveMin + workMin : leaveMin))
