import { Today } from '../../features/today/today'

export default Today
