/** A site as plain as there is, but for its name. */
export const PLAIN_SITE = {
  village: 'Quay',
  island: 'Thrawn',
  access: '',
  contact: '',
  phone: '',
  people: 3,
  source: 'municipal',
  chlorineMgL: null,
} as const
