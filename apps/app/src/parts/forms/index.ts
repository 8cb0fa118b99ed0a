/** The long forms of several screens come together, with the library they share: apart they would put it before everybody's first screen. */
export { PartForm } from './part-form'
export { SiteForm } from './site-form'
