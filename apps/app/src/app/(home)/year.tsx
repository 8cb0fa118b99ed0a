import { later } from '../../ui/later'

export default later(async () => (await import('../../features/year')).Year)
