import { later } from '../../ui/later'

export default later(async () => (await import('../../features/times/driving-times')).DrivingTimes)
