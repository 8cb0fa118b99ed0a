export function archiving(config: string): string[]
