/** The design tokens as a theme: colours come from variables, so that the cellar theme changes them in one place. */
const token = (name) => `rgb(var(--${name}) / <alpha-value>)`

module.exports = {
  content: ['./src/**/*.{ts,tsx}'],
  presets: [require('nativewind/preset')],
  darkMode: 'class',
  theme: {
    extend: {
      colors: {
        paper: token('paper'),
        sheet: token('sheet'),
        ink: token('ink'),
        quiet: token('quiet'),
        line: token('line'),
        kelp: token('kelp'),
        'on-kelp': token('on-kelp'),
        brine: token('brine'),
        'brine-pale': token('brine-pale'),
        copper: token('copper'),
        'copper-text': token('copper-text'),
        oxblood: token('oxblood'),
        lichen: token('lichen'),
        'lichen-text': token('lichen-text'),
      },
      fontFamily: {
        text: ['Atkinson', 'Verdana', 'sans-serif'],
        'text-bold': ['AtkinsonBold', 'Verdana', 'sans-serif'],
        slab: ['ZillaSlabBold', 'Rockwell', 'Georgia', 'serif'],
        'slab-semi': ['ZillaSlabSemi', 'Rockwell', 'Georgia', 'serif'],
      },
      borderRadius: { card: '6px' },
    },
  },
}
