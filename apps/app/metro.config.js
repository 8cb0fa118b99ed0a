const path = require('node:path')
const { FileStore } = require('@expo/metro-config/file-store')
const { getDefaultConfig } = require('expo/metro-config')
const { withNativeWind } = require('nativewind/metro')

const config = getDefaultConfig(__dirname)
// Modules run when they are first used and not all at the start: much of the time to the first screen on a slow phone.
config.transformer.getTransformOptions = async () => ({ transform: { experimentalImportSupport: false, inlineRequires: true } })

config.transformer.minifierPath = require.resolve('./swc-minifier.cjs')
// It looks for names to rename that only Metro's own minifier would keep.
config.transformer.unstable_disableNormalizePseudoGlobals = true

const styled = withNativeWind(config, { input: './src/global.css' })
const { resolveRequest } = styled.resolver

// The style library registers every component it has heard of, and so loads lists and switches that no first screen shows;
// ours registers those we give class names to.
const REGISTERED = path.join(__dirname, 'src/ui/class-names.ts')
// The schema library brings what it would say in fifty languages; what is said here is ours.
const NO_LOCALES = path.join(__dirname, 'src/ui/no-locales.cjs')
styled.resolver.resolveRequest = (context, name, platform) => {
  if (name.endsWith('locales/index.js') && context.originModulePath.includes('/zod/v4/'))
    return { type: 'sourceFile', filePath: NO_LOCALES }
  if (name === './components' && context.originModulePath.endsWith('react-native-css-interop/dist/runtime/wrap-jsx.js')) {
    return { type: 'sourceFile', filePath: REGISTERED }
  }
  return (resolveRequest ?? context.resolveRequest)(context, name, platform)
}

// What was compiled is kept beside the packages, and its keys name no folder of this machine: another copy of the project with the
// same packages builds in a fifth of the time.
styled.cacheStores = [new FileStore({ root: path.join(__dirname, '../../node_modules/.cache/metro') })]
styled.transformer.cssInterop_transformerPath = '@expo/metro-config/build/transform-worker/transform-worker.js'

module.exports = styled
