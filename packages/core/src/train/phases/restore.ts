import type { Plan, StepList } from '../plan'
import { openFeed, openSlowly } from './feed'
import { addFlush, type FlushState } from './flush'

/** Water back, the rest flushed to where it can do no harm, storage last. */
export function restore(plan: Plan, list: StepList, state: FlushState): void {
  const { outlet, tank } = plan
  list.add('restore', 'close', [outlet.id], {
    text: 'Close the tap',
    why: 'The leak check starts at rest, with full pressure behind every seal.',
  })
  openFeed('restore', plan, list)
  const membrane = state.waiting.find(({ media }) => media === 'membrane')
  const drain = plan.train.nodes.find((node) => node.kind === 'drain')
  if (membrane && drain) addFlush('restore-membrane', [membrane], drain.id, 'to the drain, tank shut', list)
  const rest = state.waiting.filter((stage) => stage !== membrane)
  const tankWasShut = tank?.valve === true
  if (tank && tankWasShut) openSlowly('restore-tank', { id: tank.id, name: 'the tank valve' }, list)
  list.add('restore', 'open', [outlet.id], {
    text: 'Open the tap',
    why: 'Air goes out first: it spits. Then look at the joints with water moving.',
  })
  if (rest.length > 0) addFlush('restore-rest', rest, outlet.id, 'through the tap to waste', list)
  list.add('restore-last', 'close', [outlet.id], { text: 'Close the tap again', why: 'As it stands in service.' })
  list.add('restore-last', 'leak-check', [plan.feed.id], {
    text: 'Look once more, with full pressure',
    why: 'Under flow and at rest: a slow drip shows only after some minutes.',
    minutes: 2,
    tools: ['torch', 'dry tissue'],
  })
}
