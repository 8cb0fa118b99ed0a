import { settled } from '@evenround/core/readings'
import { lampControllerAt, meterDrift, photometerOf, pulseCounterAt, tdsMeterAt } from '@evenround/core/simulate'
import { say } from '@evenround/core/words'
import type { Instrument, InstrumentKind, Instruments, Measuring, Samples } from './instrument'

/** The water and the machines of a demo site, which its stand-ins measure. */
export interface StandInSite {
  seed: number
  untreatedMgL: number
  treatedMgL: number
  waterC: number
  chlorineMgL: number
  counter: { displayL: number; atMs: number; litresPerDay: number } | null
  lamp: { hours: number; atMs: number } | null
}

const EVERY_MS = 500
/** A real photometer wants a minute for its colour; the stand-in is quicker. */
const COLOUR_STEPS = 5
/** A meter that never comes to rest is given up on. */
const LONGEST_STEPS = 120
const DAYS_SINCE_SET = 60

type Shows<K extends InstrumentKind> = (where: string, step: number) => { sample: Samples[K]; done: boolean }

/** An instrument that shows something every half second until it is done. */
function ticking<K extends InstrumentKind>(kind: K, name: string, begin: () => Shows<K>): Instrument<K> {
  const measure = (where: string, onSample: (sample: Samples[K]) => void): Measuring<Samples[K]> => {
    const shows = begin()
    let step = 0
    let last: Samples[K] | null = null
    let timer: ReturnType<typeof setTimeout> | undefined
    let end: (sample: Samples[K]) => void = () => undefined
    let fail: (error: Error) => void = () => undefined
    const ended = new Promise<Samples[K]>((resolve, reject) => {
      end = resolve
      fail = reject
    })
    const tick = (): void => {
      const { sample, done } = shows(where, step)
      last = sample
      onSample(sample)
      step += 1
      if (done || step > LONGEST_STEPS) end(sample)
      else timer = setTimeout(tick, EVERY_MS)
    }
    timer = setTimeout(tick, EVERY_MS)
    const cancel = (): void => clearTimeout(timer)
    return {
      ended,
      hold: () => {
        cancel()
        if (last !== null) end(last)
      },
      stop: () => {
        cancel()
        fail(new Error(`${name} was stopped`))
      },
    }
  }
  return { kind, name, measure }
}

/** Instruments for a demo site; those it has nothing for are null. The meter's probe carries one water into the next, as probes do. */
export function standIns(site: StandInSite, nowMs: () => number): Instruments {
  const drift = meterDrift(site.seed, DAYS_SINCE_SET)
  // A probe comes dry out of its cap.
  let carriedMgL = 0
  const meter = ticking('tds-meter', say`TDS meter, stand-in`, () => {
    const shown: number[] = []
    const from = carriedMgL
    return (where, step) => {
      const waterMgL = where === 'untreated' ? site.untreatedMgL : site.treatedMgL
      const { display, timesTen } = tdsMeterAt(
        { waterMgL, carriedMgL: from, waterC: site.waterC, drift, seed: site.seed },
        (step * EVERY_MS) / 1000,
      )
      // Agreement is looked for a second apart: closer together anything that creeps agrees.
      if (step % 2 === 0) shown.push(display)
      carriedMgL = waterMgL
      const still = settled(shown)
      return { sample: { display, timesTen, temperatureC: site.waterC, settled: still }, done: still }
    }
  })
  const { counter, lamp } = site
  return {
    'tds-meter': meter,
    'pulse-counter':
      counter &&
      ticking('pulse-counter', say`Counter, stand-in`, () => () => ({
        sample: {
          displayL: pulseCounterAt(
            {
              seed: site.seed,
              startMs: counter.atMs,
              startL: counter.displayL,
              litresPerDay: counter.litresPerDay,
              litresPerPulse: 1,
              places: 7,
            },
            nowMs(),
          ),
        },
        done: true,
      })),
    'lamp-controller':
      lamp &&
      ticking('lamp-controller', say`Lamp controller, stand-in`, () => () => ({
        sample: lampControllerAt({ startMs: lamp.atMs, startHours: lamp.hours, lostPercentPerHour: 30 / 9000, seed: site.seed }, nowMs()),
        done: true,
      })),
    photometer: ticking('photometer', say`Photometer, stand-in`, () => (_, step) => ({
      sample: photometerOf(site.chlorineMgL, site.seed + step),
      done: step >= COLOUR_STEPS,
    })),
  }
}
