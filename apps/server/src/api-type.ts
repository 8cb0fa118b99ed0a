import type { apiRoutes } from './app'

/** For the app's typed client: a type only, no code of the server reaches the app. */
export type ApiType = ReturnType<typeof apiRoutes>
