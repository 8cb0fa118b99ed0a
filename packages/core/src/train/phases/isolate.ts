import { stageLabel } from '../labels'
import type { Plan, StepList } from '../plan'

const PRESSURE = 'Water under pressure: nothing is loosened before the flow at the tap has stopped.'

function storage(plan: Plan, list: StepList): void {
  const { tank, outlet } = plan
  if (!tank) return
  if (plan.schools.tankWater === 'drain' || !tank.valve) {
    list.add('isolate', 'drain', [tank.id], {
      to: outlet.id,
      text: 'Open the tap and let the storage tank run empty',
      why: tank.valve
        ? 'School: drain the tank. Its water is old, and an empty tank presses on nothing.'
        : 'This tank has no valve: until it is empty it presses on every housing.',
      minutes: 6,
    })
  }
  if (!tank.valve) return
  list.add('isolate', 'close', [tank.id], {
    text: 'Shut the tank valve',
    why: 'The tank is a second source of pressure: with the feed shut it still pushes water back.',
  })
}

/** Shut, relieved, and something underneath: every mishap starts where one of these was left out. */
export function isolate(plan: Plan, list: StepList): void {
  const first = plan.due[0]?.stage
  if (plan.pump) {
    list.add('isolate', 'power-off', [plan.pump], {
      text: 'Switch the pump off and tag it',
      why: 'A pump that starts on a falling pressure would feed the open housing.',
      caution: 'Mains electricity and water: dry hands, and leave the pump’s cover closed.',
    })
  }
  list.add('isolate', 'close', [plan.feed.id], {
    text: plan.feed.turns === 'quarter' ? 'Shut the feed valve: lever across the line' : 'Shut the feed valve: turn it in until it stops',
    why: 'No water may reach the first housing while it is open.',
  })
  storage(plan, list)
  list.add('isolate', 'relieve', [plan.outlet.id], {
    text: 'Open the tap and wait until it stops',
    why: 'A shut valve still leaves pressure between it and the tap; the tap lets it out.',
    caution: PRESSURE,
    minutes: 1,
  })
  const passesSlowly = plan.path.some((node) => node.kind === 'stage' && node.media === 'membrane')
  const drain = plan.train.nodes.find((node) => node.kind === 'drain')
  if (passesSlowly && drain) {
    list.add('isolate', 'relieve', [drain.id], {
      text: 'Wait until the drain line has stopped',
      why: 'The membrane holds the pressure in front of it; it leaves slowly, through the drain side.',
      caution: PRESSURE,
      minutes: 3,
    })
  }
  for (const { stage } of plan.due) {
    if (!stage.reliefButton) continue
    list.add('isolate', 'relieve', [`${stage.id}.button`], {
      text: `Press the button on ${stageLabel(stage)} until nothing hisses`,
      why: 'Air caught under the head keeps pressure after the tap has stopped.',
      caution: PRESSURE,
    })
  }
  if (first) {
    list.add('isolate', 'catch', [first.id], {
      text: 'Put the tray and towels underneath',
      why: 'The housing comes off full of water, over somebody’s floor.',
      minutes: 2,
      tools: ['catch tray'],
      consumables: ['towels'],
    })
  }
}
