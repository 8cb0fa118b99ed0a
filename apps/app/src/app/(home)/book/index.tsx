import { Book } from '../../../features/book/book'

export default Book
