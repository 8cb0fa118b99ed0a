export { hasRight, RIGHTS, ROLES, type Right, type Role } from './rights'
