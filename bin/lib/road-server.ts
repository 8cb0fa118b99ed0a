// A stand-in for a routing server, on loopback.
import { standInRoads } from '../../apps/server/src/testing/road-server'

const port = Number(process.argv[2] ?? 5060)
if (!Number.isInteger(port) || port < 0 || port > 65_535) {
  console.error('Usage: bin/road-server [PORT]')
  process.exit(1)
}
const roads = await standInRoads(port)
console.log(`A stand-in for a routing server answers at ${roads.address}. It knows the roads of a made-up land. Stop it with Ctrl-C.`)
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    void roads.close().then(() => process.exit(0))
  })
