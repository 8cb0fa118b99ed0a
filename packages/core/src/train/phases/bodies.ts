import { isOwn, ownKindOf, profileOf } from '../../catalogue/own-kinds'
import { caution, say } from '../../words'
import { lineLabel, partNoun, stageLabel, stageNoun } from '../labels'
import { isDry, isInline, shutsItself } from '../machine/state'
import { type Due, linesInto, linesOutOf, type Plan } from '../plan'
import { surpriseOf } from '../surprises'
import type { StageNode } from '../types'
import type { StepDraft, Work } from '../work'

const ENDS: Record<NonNullable<StageNode['endUp']>, string> = {
  get washer() {
    return say`washer end towards the head`
  },
  get arrow() {
    return say`the end marked with the arrow up, along the flow`
  },
  get either() {
    return say`either end up`
  },
}

const SPRAYS = () => caution`Stop if it sprays. The section is not relieved.`
const BURSTS = () =>
  caution`It stands under line pressure behind its own valve and may burst off on release: hold it firmly, face away, tray under it.`

export const hasOwnBody = ({ housing }: StageNode): boolean => housing !== 'dry-slot'

/** Takes off the lines of an inline body that are still on. */
export function freeLines(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  for (const line of [...linesInto(plan.train, stage.id), ...linesOutOf(plan.train, stage.id)]) {
    if (work.state.apart.has(line)) continue
    work.add(phase, 'disconnect', [line], {
      text: say`Free ${lineLabel(plan.train, line)}`,
      why:
        stage.housing === 'threaded'
          ? say`Hold the body, turn the elbow; name the line, so that it goes back where it was.`
          : say`Press the collet flat and pull the tube straight; name the tube, so that it goes back where it was.`,
      ...(stage.selfSealing === false ? { caution: BURSTS() } : {}),
    })
  }
}

function loosen(stage: StageNode): StepDraft {
  const name = stageLabel(stage)
  switch (stage.housing) {
    case 'membrane-vessel':
      return {
        text: say`Loosen the cap of ${name}`,
        why: say`A little first: if water presses out, close it again and relieve once more.`,
        tools: [say`vessel wrench`],
      }
    case 'media-tank':
      if (stage.media === 'ph-bed')
        return {
          text: say`Loosen the fill cap of ${name}, or the unions at its head`,
          why: say`A little first: water that comes means it is not relieved.`,
          tools: [say`strap wrench`],
        }
      return {
        text: say`Loosen the unions at the head of ${name}`,
        why: say`A little first, with towels round it. The right tank by its label, not by its place.`,
        tools: [say`strap wrench`],
      }
    case 'uv-reactor':
      return { text: say`Loosen the end nut of ${name}`, why: say`A little first: water that comes means the section is not relieved.` }
    default:
      return {
        text: say`Loosen ${name} with the wrench`,
        why: say`A little first: if water presses out, close it again and relieve once more.`,
        tools: [say`housing wrench`],
      }
  }
}

function opening(stage: StageNode): StepDraft {
  const name = stageLabel(stage)
  switch (stage.housing) {
    case 'membrane-vessel':
      return { text: say`Take the cap off`, why: say`Plug the open drain port while the membrane comes out, or it drips on.` }
    case 'quarter-turn':
      return {
        text: say`Turn ${name} left to the stop and pull it down`,
        why: shutsItself(stage)
          ? say`Its head shuts itself: a few drips and no more.`
          : say`Its head does not shut itself: slowly, held firmly.`,
        ...(shutsItself(stage) ? {} : { caution: BURSTS() }),
      }
    case 'fridge-cartridge':
      return {
        text: say`Release the cartridge: pressed, turned or slid, as the appliance says`,
        why: say`A cup under it: it drips for a moment.`,
      }
    case 'media-tank':
      if (stage.media === 'ph-bed')
        return {
          text: say`Open the fill cap of ${name}, or lift its head off`,
          why: say`What is in it stays in it: it is filled up.`,
          minutes: 2,
        }
      return {
        text: say`Undo the unions and lift the head off ${name}`,
        why: say`Straps and jacket come off first and go back last.`,
        caution: caution`A full tank is heavy and spills: two people or a trolley, backs straight.`,
        minutes: 6,
      }
    case 'uv-reactor':
      return stage.media === 'uv-lamp'
        ? {
            text: say`Draw the cap off the lamp’s end`,
            why: say`Straight along its axis: it sits in quartz.`,
            caution: caution`A broken lamp holds mercury: do not vacuum it, air the room.`,
          }
        : {
            text: say`Take the end nut off ${name}`,
            why: say`Slowly: the sleeve follows and is quartz.`,
            caution: caution`Quartz breaks to splinters: gloves and glasses.`,
          }
    default:
      return { text: say`Unscrew ${name}, straight down, one hand below`, why: say`It is full to the brim and heavier than it looks.` }
  }
}

const TAKE_WHY: Partial<Record<StageNode['media'], string>> = {
  get membrane() {
    return say`Pull at the stub with pliers, straight; it may need levering by its seal.`
  },
  get 'uv-lamp'() {
    return say`By its ends, with clean gloves, slowly along its axis.`
  },
  get 'uv-sleeve'() {
    return say`Level and slowly, both ends held: it is glass.`
  },
  get 'carbon-tank'() {
    return say`Tip it into a sack that drains, not onto the ground; hose the tank clean.`
  },
  get remineraliser() {
    return say`It weighs far less than the new one: most of it has dissolved.`
  },
  get 'iron-bed'() {
    return say`Into a sack that drains: it stains what it touches. Hose the tank clean.`
  },
  get 'ph-bed'() {
    return say`What is left stays in: only what has caked together comes out.`
  },
  get ultrafiltration() {
    return say`New gloves from here: what it touches is drunk as it is.`
  },
  get 'air-filter'() {
    return say`Shake no dust into the slot.`
  },
  get 'deionising-resin'() {
    return say`Undo its strap first and keep the plate: bag and cartridge sit under it.`
  },
  get 'fridge-internal'() {
    return say`Level, over the towel: a mouthful of water comes with it.`
  },
}

const BLEACH = (): string =>
  caution`Chlorine solution burns skin and eyes: gloves, glasses, air. Only the same product goes in, and no acid near it, also not on a scaled injector.`
/** A bed that is tipped out and poured anew. */
const isPoured = ({ media, housing }: StageNode): boolean =>
  media === 'carbon-tank' || media === 'iron-bed' || (isOwn(media) && housing === 'media-tank')

/** What the firm says of its own kind stands on the steps at which it is handled. */
const ownCaution = (stage: StageNode): Pick<StepDraft, 'caution'> => {
  const cautions = ownKindOf(stage)?.cautions ?? []
  return cautions.length > 0 ? { caution: cautions.join(' ') } : {}
}
/** By the kind itself where it is one of the firm's own and nobody said more of this place. */
const endUpOf = (stage: StageNode): NonNullable<StageNode['endUp']> => stage.endUp ?? ownKindOf(stage)?.endUp ?? 'either'

function takeWords({ due }: Plan, stage: StageNode): string {
  if (isPoured(stage)) return say`Tip the spent bed out and hose the tank clean`
  if (stage.media === 'ph-bed') return say`Break up and take out what has caked together`
  const filled = due.some(({ stage: { id }, task }) => id === stage.id && task.action === 'refill')
  if (stage.media === 'chlorine-feed' && filled) return say`Open the solution tank and pour stale solution away as its label says`
  return say`Take ${stageNoun(stage)} out`
}

/** Opens a body and takes its element out; `lamps` that stand in the way of a sleeve come out the same way. */
export function openBody(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  if (isInline(stage)) freeLines(phase, plan, stage, work)
  else if (hasOwnBody(stage)) {
    if (stage.housing === 'sump-large' && (stage.drainCocks ?? 0) > 0) drainByCock(phase, stage, work)
    const eased = stage.housing !== 'quarter-turn' && stage.housing !== 'fridge-cartridge' && stage.media !== 'uv-lamp'
    const risk = stage.selfSealing === false ? BURSTS() : SPRAYS()
    if (eased) work.add(phase, 'loosen', [stage.id], { caution: risk, ...loosen(stage) })
    work.add(phase, 'open-housing', [stage.id], opening(stage))
  }
  // One that stood empty, or bridged, has nothing in it to come out.
  if (work.state.stages.get(stage.id)?.element === 'none') {
    if (work.state.stages.get(stage.id)?.bridged) takeSpacer(phase, stage, work)
    return
  }
  work.add(phase, 'take-out', [stage.id], {
    text: takeWords(plan, stage),
    why: TAKE_WHY[stage.media] ?? say`Set it upright in the tray: what it shows is looked at next.`,
    tools: stage.media === 'membrane' ? ['pliers'] : [],
    minutes: isPoured(stage) ? 20 : 0.25,
    ...(stage.media === 'chlorine-feed' ? { caution: BLEACH() } : ownCaution(stage)),
    ...(stage.media === 'uv-lamp' ? { consumables: [say`clean gloves`] } : {}),
  })
}

/** What joins the lines of an inline body while it is out. */
export function putSpacer(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  work.add(phase, 'fit', [`${stage.id}.spacer`], {
    text: say`Join the two lines with a piece where ${stageLabel(stage)} was`,
    why: say`The line is disinfected too, and nothing runs out where the body is missing.`,
    tools: [say`joining piece`],
  })
  putLinesBack(phase, plan, stage, work)
}

function takeSpacer(phase: string, stage: StageNode, work: Work): void {
  work.add(phase, 'take-out', [`${stage.id}.spacer`], {
    text: say`Take the joining piece out where ${stageLabel(stage)} belongs`,
    why: say`The new part goes into its place, arrow along the water.`,
  })
}

function drainByCock(phase: string, stage: StageNode, work: Work): void {
  const cock = `${stage.id}.cock`
  const two = stage.drainCocks === 2
  work.add(phase, 'drain', [cock], {
    to: 'vessel',
    text: two ? say`Drain ${stageLabel(stage)}: one cock to a hose, the other lets air in` : say`Drain ${stageLabel(stage)} by its cock`,
    why: say`Full it weighs over {kg}; empty it comes down in one hand. One that empties slowly hints at a clogged element.`,
    values: { kg: 10 },
    tools: [say`drain hose`],
  })
  work.add(phase, 'close', [cock], {
    text: two ? say`Shut both cocks` : say`Shut the cock`,
    why: say`As soon as it has run dry, holding its body while the lever turns: an open cock floods the floor when water comes back.`,
  })
}

const EMPTY_TANK = () => say`Look into the empty tank: riser, basket, floor`
const LOOKS_AT: Partial<Record<StageNode['media'], string>> = {
  get 'uv-lamp'() {
    return say`Look at the lamp’s ends and its connector`
  },
  get 'air-filter'() {
    return say`Look at what the air filter caught`
  },
  get 'carbon-tank'() {
    return EMPTY_TANK()
  },
  get 'iron-bed'() {
    return EMPTY_TANK()
  },
  get 'ph-bed'() {
    return say`Measure how far the bed has sunk below its mark`
  },
  get 'chlorine-feed'() {
    return say`Look at level, tube and injector: cracks, crystals, scale, drips`
  },
  get 'uv-sleeve'() {
    return say`Hold the sleeve against the light`
  },
}

const tookOut = (phase: string, { id }: StageNode, work: Work): boolean =>
  work.steps.some(({ key, verb, at }) => verb === 'take-out' && at[0] === id && key.startsWith(`${phase}/`))

export function inspectBody(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  // A body that was emptied on an earlier day has nothing in it that could be judged, or thrown away.
  if (hasOwnBody(stage) && work.state.stages.get(stage.id)?.element === 'none' && !tookOut(phase, stage, work)) {
    work.add(phase, 'inspect', [stage.id], {
      text: isInline(stage) ? say`Look at both ends of the line` : say`Look into ${stageLabel(stage)}: empty, clean, its seal whole`,
      why: say`It stood empty: dirt that came loose meanwhile, or a gasket left in the head, shows now.`,
      tools: ['torch'],
    })
    return
  }
  const key = work.add(phase, 'inspect', [stage.id], {
    text: LOOKS_AT[stage.media] ?? say`Look before you throw it away`,
    why: inspectWhy(stage),
    // What is found grades the part that came out; one that only made way is not graded.
    ...(plan.due.some((one) => one.stage.id === stage.id) ? { evidence: 'finding' as const } : {}),
    tools: ['torch'],
  })
  if (surpriseOf(plan.answers[key])?.id !== 'old-gasket') return
  work.add(phase, 'take-out', [`${stage.id}.seal`], {
    text: say`Peel the old gasket out, and feel for a second one`,
    why: say`Two gaskets on top of each other leak however hard the housing is turned.`,
    tools: [say`blunt pick`],
  })
}

function inspectWhy(stage: StageNode): string {
  if (stage.media === 'uv-lamp') return say`Blackened ends or a scorched pin say why it ended, and whether the ballast is to blame.`
  if (stage.media === 'uv-sleeve') return say`Film, scale or scratches: what dims the sleeve dims the dose. Feel its seals.`
  if (stage.media === 'air-filter') return say`What it caught decides about the next interval.`
  if (stage.media === 'ph-bed') return say`What dissolved since the last filling says when it wants filling again.`
  if (stage.media === 'chlorine-feed')
    return say`A tube that is flat or cracked feeds nothing; scale on the injector is brushed off in water, without acid.`
  if (isPoured(stage)) return say`Riser and basket whole, nothing in the riser: wipe the sealing ring and the riser’s end free of dust.`
  if (isInline(stage)) return say`What comes out of it decides about the next part and the next interval. Look at the tube ends for scores.`
  return say`What is found decides about the next part and the next interval. Is an old gasket still in the sump, the head or on the element’s ends?`
}

const WASHES: Partial<Record<StageNode['housing'], string>> = {
  get 'membrane-vessel'() {
    return say`Rinse the vessel and wipe its seat`
  },
  get 'media-tank'() {
    return say`Rinse the tank and wipe the riser and its sealing ring`
  },
  get 'uv-reactor'() {
    return say`Rinse the chamber and wipe its seats`
  },
}

function washBody(phase: string, { stage, task }: Due, work: Work): void {
  const quartz = stage.media === 'uv-sleeve' && task.action === 'clean'
  const washing = task.action === 'wash'
  if (isDry(stage) || stage.media === 'ph-bed' || (shutsItself(stage) && !washing)) return
  if (isInline(stage) && !washing && !quartz) return
  work.add(phase, 'wash', [stage.id], {
    text: quartz
      ? say`Descale the sleeve and rinse it well`
      : washing
        ? say`Wash the element and the sump`
        : (WASHES[stage.housing] ?? say`Wash ${stageLabel(stage)} and wipe the head`),
    why: quartz
      ? say`Wiped with the descaler of its label, rinsed, dried without fingerprints.`
      : washing
        ? say`Fingers along the pleats; stains are fine, a tear rejects it. No soap left behind.`
        : say`Slime left behind seeds the new element. Mild detergent, rinsed until nothing foams.`,
    ...(quartz ? { caution: caution`Acid: gloves and glasses, and never where chlorine is about. Disinfecting is another day.` } : {}),
    minutes: quartz ? 5 : washing ? 6 : 0.75,
    consumables: quartz ? [say`sleeve descaler`, say`lint-free cloth`] : [say`mild detergent`, say`clean cloth`],
  })
}

export function sealBody(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  if (isInline(stage) || !hasOwnBody(stage)) return
  const seal = `${stage.id}.seal`
  const renew = plan.schools.seals === 'new' && !isDry(stage) && !shutsItself(stage)
  if (renew) {
    work.add(phase, 'fit', [seal], {
      text: say`Lay in a new seal`,
      why: say`School: new seals at every change. Lift the old one with a blunt tool and clear the groove.`,
      consumables: [stage.housing === 'media-tank' ? say`head seal` : say`housing seal`],
    })
  }
  work.add(phase, 'grease', [seal], {
    text:
      stage.media === 'uv-lamp'
        ? say`Wipe the cap’s seal; a trace of grease on it, none on the glass`
        : stage.housing === 'fridge-cartridge'
          ? say`Feel the rings of the cartridge for nicks; a trace of grease on them`
          : renew
            ? say`Grease the new seal, thinly`
            : say`Feel the seal for nicks, clean it, grease it thinly`,
    why: say`Silicone fit for drinking water only: mineral oil swells the rubber. A nicked seal is replaced.`,
    consumables: [say`food-grade silicone grease`],
  })
}

const FIT_WHY: Partial<Record<StageNode['media'], string>> = {
  get membrane() {
    return say`Grease its O-rings, push until it seats with a jolt. No thread tape in the bore.`
  },
  get 'uv-lamp'() {
    return say`A fingerprint burns in and dims it: clean gloves, by its ends. The old lamp goes to hazardous waste: it holds mercury.`
  },
  get 'uv-sleeve'() {
    return say`No fingerprints; both seals square on it before the nut goes on, by hand.`
  },
  get 'carbon-tank'() {
    return say`Riser capped while you pour and centred after; dust wiped off riser and ring.`
  },
  get remineraliser() {
    return say`It is heavy when new: support it until it holds.`
  },
  get 'fridge-internal'() {
    return say`Its cap off first; until it clicks or stops, then pull at it once.`
  },
  get 'deionising-resin'() {
    return say`Plate and seal the right way round, the strap tight again: water that slips past the resin is not treated.`
  },
  get 'iron-bed'() {
    return say`Gravel first where its label says so, then the bed, up to its mark: riser capped while you pour and centred after.`
  },
  get 'ph-bed'() {
    return say`Slowly, no dust; not over the mark: the free space above is what it lifts into when it backwashes.`
  },
  get ultrafiltration() {
    return say`By its ends, new gloves: what is touched behind it is drunk as it is.`
  },
  get 'chlorine-feed'() {
    return say`Mixed as its label says, with softened or clear water; the date on the tank.`
  },
  get 'air-filter'() {
    return say`The way the old one faced.`
  },
}

const POURED = {
  get tools() {
    return ['funnel', say`riser cap`]
  },
  minutes: 20,
}
/** Where fitting is more than putting a part in. */
const FITTING: Partial<Record<StageNode['media'], Required<Pick<StepDraft, 'tools' | 'minutes'>>>> = {
  'carbon-tank': POURED,
  'iron-bed': POURED,
  'ph-bed': { tools: ['funnel'], minutes: 8 },
  'chlorine-feed': { tools: [], minutes: 4 },
}

function fitWords({ stage, task }: Due): string {
  const again = task.action === 'wash' || task.action === 'clean'
  if (stage.media === 'ph-bed') return say`Fill the new medium in up to the mark`
  if (stage.media === 'chlorine-feed')
    return task.action === 'refill'
      ? say`Fill in fresh solution of the same product, up to the mark`
      : say`Lay in the new pump tube, clamped at both ends`
  if (isPoured(stage)) return say`Cap the riser, pour the new bed in through the funnel, centre the riser, take the cap off`
  if (stage.media === 'fridge-internal') return say`Push the new cartridge home`
  if (stage.media === 'air-filter') return say`Put the new air filter in`
  if (again)
    return say`Put the ${task.action === 'wash' ? say`washed element` : say`clean sleeve`} back${stage.media === 'sediment' ? `, ${ENDS[endUpOf(stage)]}` : ''}`
  if (task.action === 'refill') return say`Fill in the new ${profileOf(stage).name}: bag or cartridge, plate and seal the right way round`
  const ends = stage.media === 'uv-lamp' || stage.media === 'uv-sleeve' ? '' : `, ${ENDS[endUpOf(stage)]}`
  return say`Fit ${partNoun(stage, 'new')}${ends}`
}

/** Cleans, seals, fits and closes what was opened. */
export function closeBody(phase: string, plan: Plan, due: Due, work: Work, keepOff: ReadonlySet<string> = new Set()): void {
  const { stage, task } = due
  washBody(phase, due, work)
  sealBody(phase, plan, stage, work)
  const again = task.action === 'wash' || task.action === 'clean'
  work.add(phase, 'fit', [stage.id], {
    text: fitWords(due),
    why:
      FIT_WHY[stage.media] ??
      (isPoured(stage) ? FIT_WHY['carbon-tank'] : undefined) ??
      say`Read the part number before it is wet, look into the bore for a packet, and centre it on the spigot.`,
    consumables: again ? [] : [say`part for position ${stage.position}`],
    ...ownCaution(stage),
    ...(FITTING[stage.media] ?? (isPoured(stage) ? POURED : { tools: [], minutes: 0.5 })),
  })
  shutBody(phase, plan, stage, work, keepOff)
}

/** Puts the lines of an inline body back, other than those that are off for a reason of their own. */
export function putLinesBack(phase: string, plan: Plan, stage: StageNode, work: Work, keepOff: ReadonlySet<string> = new Set()): void {
  for (const line of [...linesInto(plan.train, stage.id), ...linesOutOf(plan.train, stage.id)]) {
    if (!work.state.apart.has(line) || keepOff.has(line)) continue
    work.add(phase, 'connect', [line], {
      text: connectWords(stage, line.startsWith(`${stage.id}>`) ? 'outlet' : 'inlet'),
      why:
        stage.housing === 'threaded'
          ? say`Two turns of thread tape, hand tight and a little more. Flow arrow along the water.`
          : say`Past the first stop; a tube that only reaches the collet blows out under pressure. Flow arrow along the water.`,
      ...(stage.housing === 'threaded' ? { consumables: [say`thread tape`] } : {}),
    })
  }
}

/** Closes a body, or puts its lines back. */
export function shutBody(phase: string, plan: Plan, stage: StageNode, work: Work, keepOff: ReadonlySet<string> = new Set()): void {
  if (isInline(stage)) {
    putLinesBack(phase, plan, stage, work, keepOff)
    return
  }
  if (!hasOwnBody(stage)) return
  if (damaged(phase, plan, stage, work)) {
    work.add(phase, 'inspect', [`${stage.id}.seal`], {
      text: say`Try a sound part on ${stageLabel(stage)} dry, by hand, and close with that one`,
      why: say`Dirt first, then a crossed thread, then a worn one: the half that a sound partner does not fit is the bad one. Without a sound part stop here, leave it shut and say so.`,
      minutes: 3,
      consumables: [say`spare sump or cap`],
    })
  }
  work.add(phase, 'close-housing', [stage.id], closingDraft(plan, stage))
}

/** Whether somebody said at one of this body's steps that its thread is bad. */
const damaged = (phase: string, plan: Plan, stage: StageNode, work: Work): boolean =>
  [...work.steps.map(({ key }) => key), `${phase}/close-housing:${stage.id}`].some(
    (key) => key.endsWith(`:${stage.id}`) && surpriseOf(plan.answers[key])?.id === 'thread-damaged',
  )

const connectWords = (stage: StageNode, end: 'inlet' | 'outlet'): string =>
  stage.housing === 'threaded' ? say`Screw the ${end} elbow on` : say`Push the ${end} tube home and tug it`

export function closingDraft(plan: Plan, stage: StageNode): StepDraft {
  const why = say`As tight as it will go ruins the seal and the next opening.`
  switch (stage.housing) {
    case 'quarter-turn':
      return {
        text: say`Push ${stageLabel(stage)} up and turn it right to the stop`,
        why: say`Its tabs fit one way only; marks stand in line when it is home.`,
      }
    case 'fridge-cartridge':
      return { text: say`Close the slot`, why: say`The appliance counts a cartridge that is not home as missing.` }
    case 'media-tank':
      return stage.media === 'ph-bed'
        ? { text: say`Close the fill cap, or put the head on, by hand`, why }
        : { text: say`Put the head on and tighten the unions by hand`, why, minutes: 4 }
    case 'uv-reactor':
      return stage.media === 'uv-lamp'
        ? { text: say`Push the cap onto the lamp’s end until it seats`, why: say`A cap that sits askew lets moisture to the pins.` }
        : { text: say`Screw the end nut on by hand`, why: say`Hand tight: more cracks the quartz.` }
    default: {
      const quarter = plan.schools.closing === 'hand-and-quarter-turn' && stage.housing === 'sump-large'
      return {
        text: say`Close ${stageLabel(stage)} by hand${quarter ? say`, then up to a quarter turn with the wrench` : ''}`,
        why,
        ...(quarter ? { tools: [say`housing wrench`] } : {}),
      }
    }
  }
}
