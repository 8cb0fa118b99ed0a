import { say } from '@evenround/core/words'
import type { ReactNode } from 'react'
import { Screen } from './screen'
import { Empty } from './states'

/** In the place of a screen that only records: nothing is offered that the server would refuse. */
export const ReadOnly = ({ over, title }: { over: ReactNode; title: string }) => (
  <Screen over={over} title={title}>
    <Empty
      title={say`You read along`}
      text={say`Recording is for technicians and the office. What was recorded stands on the site’s page and in the book.`}
    />
  </Screen>
)
