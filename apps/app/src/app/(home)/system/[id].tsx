import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const Editor = later(() => import('../../../features/train/editor').then(({ TrainEditor }) => TrainEditor))
const Fresh = later(() => import('../../../features/train/editor').then(({ NewSystem }) => NewSystem))

/** `/system/ID`, or `/system/new?site=ID` for one that is not there yet. */
export default function SystemRoute() {
  const { id, site } = useLocalSearchParams<{ id: string; site?: string }>()
  return id === 'new' && site ? <Fresh siteId={site} /> : <Editor id={id} />
}
