// A stand-in for a routing server, on loopback.
import { BEHAVIOURS, standInRoads } from '../../apps/server/src/testing/road-server.ts'

const [port = '5055', how = 'sound'] = process.argv.slice(2)
if (!/^\d{1,5}$/.test(port) || Number(port) > 65_535 || !BEHAVIOURS.includes(how)) {
  console.error(`Usage: bin/road-server [PORT] [${BEHAVIOURS.join('|')}]`)
  process.exit(1)
}
const roads = await standInRoads(Number(port), (points) => console.log(`Asked about ${points} places.`))
roads.behave(how)
console.log(`A stand-in for a routing server answers at ${roads.address}. It knows the roads of a made-up land. Stop it with Ctrl-C.`)
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    void roads.close().then(() => process.exit(0))
  })
