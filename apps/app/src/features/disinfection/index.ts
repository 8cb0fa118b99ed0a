/** The screens of a disinfection come together: apart they would put the core they share before everybody's first screen. */
export { CertificatePage } from './certificate'
export { JobPage } from './job-page'
export { Planner } from './planner'
export { QuickDose } from './quick-dose'
