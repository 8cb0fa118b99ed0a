/** Five runners in one: core and contract alone, the commands' own parts, the server on a real PostgreSQL, the app's own parts. */
const swc = (decorators) => [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', decorators },
      transform: decorators ? { legacyDecorator: true, decoratorMetadata: true, useDefineForClassFields: false } : {},
      target: 'es2022',
    },
    module: { type: 'commonjs' },
  },
]
/** Tests live on a clock of their own. */
const CLOCK = `${__dirname}/bin/lib/jest-clock.cjs`
const shared = {
  '^@evenround/core/(.*)$': '<rootDir>/packages/core/src/$1',
  '^@evenround/contract/(.*)$': '<rootDir>/packages/contract/src/$1',
  '^fast-check$': '<rootDir>/bin/lib/fast-check.cjs',
}
const plain = (name) => ({
  displayName: name,
  rootDir: __dirname,
  roots: [`<rootDir>/packages/${name}`],
  testEnvironment: 'node',
  setupFiles: [CLOCK],
  transform: { '^.+\\.ts$': swc(false) },
  moduleNameMapper: shared,
})
const letThrough = (names) => [`/node_modules/(?!(${names.join('|')})/)`]

module.exports = {
  // A hang is what this catches, not slowness: real databases, and a machine that does other things beside it.
  testTimeout: 900_000,
  testSequencer: `${__dirname}/bin/lib/longest-first.cjs`,
  projects: [
    plain('core'),
    plain('contract'),
    {
      displayName: 'bin',
      rootDir: __dirname,
      roots: ['<rootDir>/bin/lib'],
      testMatch: ['**/*.test.mjs'],
      testEnvironment: 'node',
      setupFiles: [CLOCK],
      transform: { '^.+\\.mjs$': swc(false) },
    },
    {
      displayName: 'server',
      rootDir: __dirname,
      roots: ['<rootDir>/apps/server/src'],
      testEnvironment: 'node',
      setupFiles: [CLOCK],
      transform: { '^.+\\.(ts|mjs|js)$': swc(true) },
      moduleNameMapper: shared,
      transformIgnorePatterns: letThrough([
        'hono',
        '@hono',
        'better-auth',
        '@better-auth',
        'better-call',
        '@better-fetch',
        'jose',
        'kysely',
        'nanostores',
        '@noble',
        'rou3',
        'defu',
        'uuid',
        '@asteasolutions',
        'openapi3-ts',
      ]),
    },
    {
      displayName: 'app',
      rootDir: __dirname,
      roots: ['<rootDir>/apps/app/src'],
      preset: 'jest-expo/web',
      setupFiles: [CLOCK],
      moduleNameMapper: {
        ...shared,
        '\\.css$': '<rootDir>/apps/app/src/ui/no-css.cjs',
        // The router runs in the browser tests; to turn all of it into code for a few links costs minutes here.
        '^expo-router$': '<rootDir>/apps/app/src/testing/router.tsx',
        '^react-native$': 'react-native-web',
      },
      transform: {
        '\\.m?[jt]sx?$': [
          '@swc/jest',
          {
            jsc: {
              parser: { syntax: 'typescript', tsx: true },
              transform: { react: { runtime: 'automatic', importSource: 'nativewind' } },
              target: 'es2022',
            },
            module: { type: 'commonjs' },
          },
        ],
      },
      transformIgnorePatterns: letThrough([
        '(jest-)?react-native',
        '@react-native',
        'expo(nent)?',
        '@expo',
        '@expo-google-fonts',
        'expo-.*',
        'd3-.*',
        'internmap',
        'nativewind',
        'react-native-.*',
        'hono',
        'uuid',
        'zustand',
        'lucide-.*',
        '@tanstack',
      ]),
    },
  ],
}
