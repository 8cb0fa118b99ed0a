/** Shipped with the app: nothing is fetched from elsewhere. */
export const FONTS = {
  Atkinson: require('@expo-google-fonts/atkinson-hyperlegible-next/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf'),
  AtkinsonBold: require('@expo-google-fonts/atkinson-hyperlegible-next/700Bold/AtkinsonHyperlegibleNext_700Bold.ttf'),
  ZillaSlabSemi: require('@expo-google-fonts/zilla-slab/600SemiBold/ZillaSlab_600SemiBold.ttf'),
  ZillaSlabBold: require('@expo-google-fonts/zilla-slab/700Bold/ZillaSlab_700Bold.ttf'),
}
