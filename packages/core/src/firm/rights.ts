export const ROLES = ['owner', 'planner', 'technician', 'viewer'] as const
export type Role = (typeof ROLES)[number]

export const RIGHTS = [
  'read',
  'record-facts',
  /** Mending at the door what the site's page has wrong: plumbing, getting in, telephone. */
  'mend-at-door',
  /** A new site with its systems, made at the door. */
  'add-sites',
  'edit-sites',
  'edit-catalogue',
  'plan-rounds',
  'publish-round',
  'lift-safety-hold',
  'change-schools',
  'change-ratings',
  'export',
  /** Everything the firm has, in one file; and the record of who took or erased what. */
  'export-firm',
  'erase',
  'manage-people',
] as const
export type Right = (typeof RIGHTS)[number]

const ROLE_RIGHTS: Record<Role, readonly Right[]> = {
  owner: RIGHTS,
  planner: [
    'read',
    'record-facts',
    'mend-at-door',
    'add-sites',
    'edit-sites',
    'edit-catalogue',
    'plan-rounds',
    'publish-round',
    'lift-safety-hold',
    'change-ratings',
    'export',
  ],
  technician: ['read', 'record-facts', 'mend-at-door', 'add-sites'],
  viewer: ['read'],
}

/** Whether owners are asked for a second factor, or may choose. */
export const SECOND_FACTOR_RULES = ['free', 'owners'] as const
export type SecondFactorRule = (typeof SECOND_FACTOR_RULES)[number]

/** Whether a role holds a named right. Wells are a skill of the person and no right of a role. */
export const hasRight = (role: Role, right: Right): boolean => ROLE_RIGHTS[role].includes(right)
