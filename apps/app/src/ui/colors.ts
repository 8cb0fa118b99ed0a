/** The tokens for SVG, which takes no class names: the theme changes them through the variables. */
const token = (name: string): string => `rgb(var(--${name}))`

export const COLOR = {
  paper: token('paper'),
  sheet: token('sheet'),
  ink: token('ink'),
  quiet: token('quiet'),
  line: token('line'),
  kelp: token('kelp'),
  onKelp: token('on-kelp'),
  brine: token('brine'),
  brinePale: token('brine-pale'),
  copper: token('copper'),
  oxblood: token('oxblood'),
  lichen: token('lichen'),
} as const
