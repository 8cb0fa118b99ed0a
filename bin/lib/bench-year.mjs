import { bundled } from './bundle.mjs'

export async function run() {
  const { run: measure } = await bundled('bench-year')
  return measure()
}
