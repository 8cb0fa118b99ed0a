import { Me } from '../../features/firm/me'

export default Me
