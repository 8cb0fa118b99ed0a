import { Round } from '../../features/round/round'

export default Round
