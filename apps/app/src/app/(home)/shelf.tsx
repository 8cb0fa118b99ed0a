import { Shelf } from '../../features/shelf/shelf'

export default Shelf
