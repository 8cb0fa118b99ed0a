import { say } from '@evenround/core/words'

/** What a van holds beside parts: kept by its key, whatever language it is called in. */
export const VAN_ITEMS = {
  get 'lint-free-gloves'() {
    return say`Lint-free gloves`
  },
  get 'ultraviolet-safety-glasses'() {
    return say`Ultraviolet safety glasses`
  },
  get 'descaler-for-sleeves'() {
    return say`Descaler for sleeves`
  },
  get 'membrane-puller'() {
    return say`Membrane puller`
  },
  get 'draining-sack'() {
    return say`Draining sack`
  },
  get 'resin-funnel'() {
    return say`Resin funnel`
  },
  get 'top-gasket'() {
    return say`Top gasket`
  },
  get 'tank-funnel'() {
    return say`Tank funnel`
  },
  get 'riser-cap'() {
    return say`Riser cap`
  },
  get 'hose-and-hose-adapter'() {
    return say`Hose and hose adapter`
  },
  get 'chlorine-strips'() {
    return say`Chlorine strips`
  },
  get 'goggles-apron-chemical-gloves'() {
    return say`Goggles, apron, chemical gloves`
  },
  get 'softener-salt'() {
    return say`Softener salt`
  },
  get 'hardness-drops'() {
    return say`Hardness drops`
  },
  get 'tds-meter'() {
    return say`TDS meter`
  },
  get 'catch-vessel-and-towels'() {
    return say`Catch vessel and towels`
  },
  get 'silicone-grease-for-drinking-water'() {
    return say`Silicone grease for drinking water`
  },
  get gloves() {
    return say`Gloves`
  },
  get 'chlorine-test-strips-high-range'() {
    return say`Chlorine test strips, high range`
  },
  get 'chlorine-test-strips-low-range'() {
    return say`Chlorine test strips, low range`
  },
  get 'recirculation-hose'() {
    return say`Recirculation hose`
  },
  get neutraliser() {
    return say`Neutraliser`
  },
  get 'sample-bottle-sterile-dechlorinating'() {
    return say`Sample bottle, sterile, dechlorinating`
  },
  get 'cool-bag'() {
    return say`Cool bag`
  },
}
export type VanItem = keyof typeof VAN_ITEMS
