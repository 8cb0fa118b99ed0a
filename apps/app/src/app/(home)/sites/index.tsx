import { NoSiteChosen } from '../../../features/site/no-site-chosen'

export default NoSiteChosen
