import { buildApp, buildServer } from './build.mjs'
import { ensureProgramPackages, packagesThere } from './install.mjs'
import { fail, step } from './steps.mjs'

try {
  await step('Packages', ensureProgramPackages, packagesThere(false))
  await step('Build the server', buildServer)
  await step('Build the app', buildApp)
} catch (error) {
  fail(error)
}
