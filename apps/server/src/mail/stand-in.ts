import type { Mail, Mailer } from './mailer'

const KEPT = 50

/** The demo's mailbox: nothing leaves the machine, and what would have gone out can be read on a screen until the server ends. */
export function standInMailer(now: () => Date): Mailer {
  const sent: (Mail & { at: string })[] = []
  return {
    send: async (mail) => {
      sent.unshift({ ...mail, at: now().toISOString() })
      sent.length = Math.min(sent.length, KEPT)
    },
    kept: (firmId) => sent.filter((mail) => mail.firmId === firmId),
  }
}
