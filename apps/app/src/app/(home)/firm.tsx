import { FirmScreen } from '../../features/firm/firm'

export default FirmScreen
