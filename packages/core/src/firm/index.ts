export { hasRight, RIGHTS, type Right, ROLES, type Role } from './rights'
export { CHLORINE_FIELDS, MEDIUM_FIELDS, PART_FIELDS, PART_FIGURES, RATED, SITE_FIELDS } from './things'
