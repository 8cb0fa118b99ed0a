import { roundFileRoutes } from './features/round/file-routes'
import { planRoutes } from './features/round/plan-routes'
import { wearListRoutes } from './features/wear/list-routes'
import { yearRoutes } from './features/year/routes'
import { type ApartDeps, router } from './http/env'
import { listRoutes } from './pages/list-routes'

/** The routes that threads of their own answer where there are some: each reads all of a firm, or makes a whole plan. */
export const apartRoutes = (deps: ApartDeps) =>
  router()
    .route('/', planRoutes(deps))
    .route('/', roundFileRoutes(deps))
    .route('/', yearRoutes(deps))
    .route('/', wearListRoutes(deps))
    .route('/', listRoutes(deps))
