import type { FactKind } from '@evenround/core/visit'

/** Screens that a kind of fact makes stale beyond what its effects put in place: they are asked for again where they are shown. */
export const STALE_BY_FACT: Readonly<Record<FactKind, readonly string[]>> = {
  'visit-begun': ['book'],
  'tds-reading': ['stop', 'due', 'stage'],
  'stage-reading': ['stop', 'due', 'stage'],
  'step-done': [],
  'block-done': [],
  'step-surprise': [],
  'work-changed': [],
  'timer-started': [],
  'part-removed': ['stop', 'due', 'stage'],
  'part-fitted': ['stop', 'due', 'stage', 'shelf'],
  'hold-begun': ['sites', 'disinfection'],
  'hold-lifted': ['sites', 'disinfection', 'office'],
  'hold-told': ['site', 'disinfection', 'office'],
  'visit-finished': ['book', 'week', 'due', 'site'],
  'fault-noted': ['site'],
  'fault-settled': ['site'],
  'site-mended': ['stop', 'today', 'week', 'site'],
  'job-planned': ['today', 'week', 'disinfections', 'disinfection-setup', 'site'],
  'chlorine-dosed': ['disinfections', 'today', 'week'],
  'strip-read': ['disinfections', 'today', 'week'],
  'sample-taken': ['disinfections'],
  'sample-result': ['disinfections', 'site'],
  'job-day-ended': ['today', 'week', 'disinfections', 'stop'],
}
