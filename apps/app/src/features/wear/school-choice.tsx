import type { StagePageDto } from '@evenround/contract/due'
import type { WearSchool } from '@evenround/core/wear'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { queryClient } from '../../data/queries'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'

const SCHOOLS: Record<WearSchool, { name: string; why: string }> = {
  earliest: { name: 'Earliest of all', why: 'whatever is over first decides: the calendar, the litres or what was measured.' },
  calendar: { name: 'Calendar', why: 'months by people and source; good where nobody measures and nothing is counted.' },
  usage: { name: 'Usage', why: 'litres and hours against what it is rated for; good where a counter is read.' },
  condition: { name: 'Condition', why: 'TDS, pressure, flow, strips; good where it is measured often.' },
}
const FROM = { firm: 'the firm’s choice', site: 'chosen for this site', stage: 'chosen for this stage' } as const
type Reach = 'stage' | 'site'

/** The school in force at a stage, why one would choose it, and (for who may) another one for the stage or its site. */
export function SchoolChoice({ page, mayChoose }: { page: StagePageDto; mayChoose: boolean }) {
  const [open, setOpen] = useState(false)
  const [reach, setReach] = useState<Reach>('stage')
  const { inForce, from } = page.school
  const choose = useMutation({
    mutationFn: (school: WearSchool | null) =>
      reach === 'stage'
        ? ask(api.stages[':id'].school.$put({ param: { id: page.stage.id }, json: { school } }))
        : ask(api.sites[':id'].school.$put({ param: { id: page.stage.siteId }, json: { school } })),
    onSuccess: async () => {
      setOpen(false)
      for (const root of ['stage', 'due', 'site', 'sites', 'today', 'stop']) void queryClient.invalidateQueries({ queryKey: [root] })
    },
  })
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {`Method: ${SCHOOLS[inForce].name.toLowerCase()}`}
      </T>
      <T kind="quiet">{`${FROM[from][0]?.toUpperCase()}${FROM[from].slice(1)}: ${SCHOOLS[inForce].why}`}</T>
      {mayChoose && !open ? (
        <View className="self-start">
          <Button label="Change the method" onPress={() => setOpen(true)} />
        </View>
      ) : null}
      {open ? (
        <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
          <Choice
            label="For"
            value={reach}
            options={[
              { value: 'stage', label: 'this stage' },
              { value: 'site', label: 'the whole site' },
            ]}
            onChange={setReach}
          />
          {(Object.keys(SCHOOLS) as WearSchool[]).map((school) => (
            <Button key={school} label={SCHOOLS[school].name} hint={SCHOOLS[school].why} onPress={() => choose.mutate(school)} />
          ))}
          <Button label={reach === 'stage' ? 'As the site has it' : 'As the firm has it'} onPress={() => choose.mutate(null)} />
          <Button label="Cancel" onPress={() => setOpen(false)} />
          {choose.error ? <Failed what="The method was not changed" error={choose.error} /> : null}
        </View>
      ) : null}
    </View>
  )
}
