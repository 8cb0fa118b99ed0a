/** What the schema library would say by itself, in no language: every schema of ours says what is wrong in its own words. */
module.exports = { en: () => ({ localeError: () => undefined }) }
