/** The role the server works as: it owns nothing, is no superuser, and row-level security binds it. */
export const APP_ROLE = 'evenround_app'
