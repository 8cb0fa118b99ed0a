import { SitesFrame } from '../../../features/site/sites-frame'

export default SitesFrame
