export interface Place {
  user: { uid: number; gid: number } | null
  config: string
  pg: string
  repo: string
  port: string
  socket: string
  superuser: string
  key: string | null
}
export interface Where {
  user: Place['user']
  home: string
  port: number
  socket: string
}
export function writePlace(options: Where & { repo?: string }): { config: string; repo: string; madeKey: string | null }
export function readPlace(config: string): Omit<Place, 'user'>
export function readKey(text: string): string
export function adminUrlOf(place: Pick<Place, 'socket' | 'port' | 'superuser'>): string
