import { Frame } from '../../features/frame/frame'

export default Frame
