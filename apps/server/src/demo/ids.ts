import { parse, v5 } from 'uuid'

/** Names the demo's ids grow from, so that links into the demo world stay good when it is started over. */
const DEMO_NAMESPACE = parse('6f0a1c52-7d0e-4b57-9f55-2b8a6a3d9c11')

/** Bytes, since a text would be taken apart letter by letter: a demo has ten thousand ids. */
export const demoId = (...parts: (string | number)[]): string => v5(Buffer.from(parts.join('/')), DEMO_NAMESPACE)
