export { hasRight, RIGHTS, type Right, ROLES, type Role } from './rights'
