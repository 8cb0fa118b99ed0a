/** What properties are drawn by where nobody says another seed. */
module.exports = { USUAL_SEED: 20261125 }
