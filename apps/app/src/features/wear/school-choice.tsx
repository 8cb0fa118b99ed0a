import type { StagePageDto } from '@evenround/contract/due'
import type { WearSchool } from '@evenround/core/wear'
import { midSentence, say } from '@evenround/core/words'
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
  earliest: { name: say`Earliest of all`, why: say`whatever is over first decides: the calendar, the litres or what was measured.` },
  calendar: { name: say`Calendar`, why: say`months by people and source; good where nobody measures and nothing is counted.` },
  usage: { name: say`Usage`, why: say`litres and hours against what it is rated for; good where a counter is read.` },
  condition: { name: say`Condition`, why: say`TDS, pressure, flow, strips; good where it is measured often.` },
}
const FROM = { firm: say`the firm’s choice`, site: say`chosen for this site`, stage: say`chosen for this stage` } as const
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
        {say`Method: ${midSentence(SCHOOLS[inForce].name)}`}
      </T>
      <T kind="quiet">{`${FROM[from][0]?.toUpperCase()}${FROM[from].slice(1)}: ${SCHOOLS[inForce].why}`}</T>
      {mayChoose && !open ? (
        <View className="self-start">
          <Button label={say`Change the method`} onPress={() => setOpen(true)} />
        </View>
      ) : null}
      {open ? (
        <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
          <Choice
            label={say`For`}
            value={reach}
            options={[
              { value: 'stage', label: say`this stage` },
              { value: 'site', label: say`the whole site` },
            ]}
            onChange={setReach}
          />
          {(Object.keys(SCHOOLS) as WearSchool[]).map((school) => (
            <Button key={school} label={SCHOOLS[school].name} hint={SCHOOLS[school].why} onPress={() => choose.mutate(school)} />
          ))}
          <Button label={reach === 'stage' ? say`As the site has it` : say`As the firm has it`} onPress={() => choose.mutate(null)} />
          <Button label={say`Cancel`} onPress={() => setOpen(false)} />
          {choose.error ? <Failed what={say`The method was not changed`} error={choose.error} /> : null}
        </View>
      ) : null}
    </View>
  )
}
