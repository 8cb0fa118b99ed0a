// Properties are tried on the same draws in every run, so that a run says the same tomorrow; bin/test --seed N draws others.
const { dirname, join } = require('node:path')

/** The package itself: by its name it would be this file again (jest.config.cjs). */
const fc = require(join(dirname(require.resolve('fast-check/package.json')), 'lib/cjs/fast-check.js'))
const { USUAL_SEED } = require('./seed.cjs')

fc.configureGlobal({ seed: Number(process.env.EVEN_ROUND_SEED ?? USUAL_SEED) })
module.exports = fc
