/** A letter of the program's own: plain text, one person. */
export interface Mail {
  firmId: string
  to: string
  subject: string
  text: string
}

/** Where mail goes out. Null where none is set up: links are then handed on by whoever made them. */
export interface Mailer {
  send: (mail: Mail) => Promise<void>
  /** The demo's stand-in shows what it would have sent, newest first; a real one shows nothing. */
  kept?: (firmId: string) => readonly (Mail & { at: string })[]
}
