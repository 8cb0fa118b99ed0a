const { minifySync } = require('@swc/core')

/** What Metro asks of a minifier, answered by swc: as small, in a tenth of the time. */
module.exports = ({ code, reserved = [] }) => ({
  code: minifySync(code, {
    ecma: 2020,
    compress: { ecma: 2020 },
    mangle: { reserved },
    module: false,
    sourceMap: false,
    format: { comments: false },
  }).code,
})
