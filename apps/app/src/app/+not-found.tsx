import { NotFound } from '../features/frame/not-found'

export default NotFound
