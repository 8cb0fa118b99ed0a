// Speed and memory are measured here and never asserted as seconds in a test.
import { fail } from './steps.mjs'

const BENCHES = {
  load: () => import('./bench-load.mjs'),
  tick: () => import('./bench-tick.mjs'),
  wear: () => import('./bench-wear.mjs'),
  round: () => import('./bench-round.mjs'),
  year: () => import('./bench-year.mjs'),
  firm: () => import('./bench-firm.mjs'),
  sheets: () => import('./bench-sheets.mjs'),
  due: () => import('./bench-due.mjs'),
  search: () => import('./bench-search.mjs'),
  file: () => import('./bench-file.mjs'),
  fuzz: () => import('./bench-fuzz.mjs'),
  serve: () => import('./bench-serve.mjs'),
  soak: () => import('./bench-soak.mjs'),
  heavy: () => import('./bench-heavy.mjs'),
  full: () => import('./bench-full.mjs'),
  ingest: () => import('./bench-ingest.mjs'),
}
const HELP = `bin/bench NAME\n\n  load   what the first screen costs: bytes, first paint, first stop, a tap, with the processor slowed four times\n  tick   what a tick, opening Today and bringing a week onto the device ask of the network and the database\n  wear   whether forecasts are right as often as they say: calibration, sharpness, worth, speed\n  sheets whether run sheets pass their checker, how many mutants of them it names, what a sheet of twelve stages costs\n  round  whether rounds are near the best that is known, even, and quick (BENCH_PARTS: small, tours, strewn, published, many, quarter)\n  year   three simulated years under four ways of planning: evenness, driving, parts, risk (BENCH_SEEDS, BENCH_WAYS a pattern, BENCH_LARGE; resumable)\n  firm   the round of 20,000 systems and forty technicians on the server, killed in the middle\n  due    the list of all that is due with 20,000 systems and a million readings; a fleet forecast anew, killed in the middle\n  search what a search of the firm takes with 20,000 systems\n  file   a firm's whole file with 20,000 systems and a million readings, and what others wait for meanwhile\n  fuzz   20,000 requests nobody means: what they are answered, the slowest, memory before and after\n  serve  what one process answers a second, page by page and fact by fact, beside a bare route\n  soak   20,000 systems at work for ten minutes (BENCH_MINUTES, BENCH_PACE): whether the server grows, slows or is kept from answering\n  heavy  how long each heavy piece of a large firm’s work keeps the thread that answers everybody (BENCH_SYSTEMS, BENCH_WORKS a pattern)
  full   the database's disk runs full and has room again: what was acknowledged, counted afterwards (as root)\n  ingest 5,000 readings a second for five minutes, some twice, some late, counted afterwards`

const [name] = process.argv.slice(2)
if (name === undefined || name === '--help') process.stdout.write(`${HELP}\n`)
else if (!Object.hasOwn(BENCHES, name)) {
  process.stderr.write(`No such bench: ${name}\n\n${HELP}\n`)
  process.exit(2)
} else {
  try {
    const { run } = await BENCHES[name]()
    process.exitCode = (await run()) ? 0 : 1
  } catch (error) {
    fail(error)
  }
}
