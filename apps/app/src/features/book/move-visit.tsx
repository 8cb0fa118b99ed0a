import type { VisitPageDto } from '@evenround/contract/book'
import type { SystemDto } from '@evenround/contract/site'
import { effectiveFacts, type VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useState } from 'react'
import { View } from 'react-native'
import { moveVisit } from '../../data/corrections'
import { useSite, useSites } from '../../data/queries'
import { Button } from '../../ui/button'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

/** The visit was made somewhere else: where, and what goes along. */
export function MoveVisit({ page, state }: { page: VisitPageDto; state: VisitState }) {
  const router = useRouter()
  const sites = useSites().data?.sites ?? []
  const [siteId, setSiteId] = useState('')
  const site = useSite(siteId, siteId !== '')
  const systems: SystemDto[] = site.data?.systems ?? []
  const [systemId, setSystemId] = useState('')
  const to = systems.find(({ id }) => id === systemId) ?? null
  const from = page.system
  if (!from) return null
  const move = async (): Promise<void> => {
    if (!to) return
    const facts = effectiveFacts(page.facts.map(({ fact }) => fact)).facts
    const { visitId } = await moveVisit(facts, state, from, to)
    router.replace(`/book/${visitId}`)
  }
  return (
    <View className="gap-2 rounded-card border-2 border-line bg-sheet p-3" role="group" aria-label={say`It was somewhere else`}>
      <T kind="strong">{say`It was at another system`}</T>
      <T kind="quiet">
        {say`Taken back here and written down there, with the same times: readings, findings and parts of the same medium at the same position.`}
      </T>
      <Select
        label={say`Site`}
        value={siteId}
        none={say`Which site`}
        groups={[{ label: say`Sites`, options: sites.map(({ id, name, village }) => ({ value: id, label: `${name}, ${village}` })) }]}
        onChange={(next) => {
          setSiteId(next)
          setSystemId('')
        }}
      />
      {siteId === '' ? null : (
        <Select
          label={say`System`}
          value={systemId}
          none={say`Which system`}
          groups={[
            {
              label: say`Systems`,
              options: systems.filter(({ id }) => id !== from.id).map(({ id, name }) => ({ value: id, label: name })),
            },
          ]}
          onChange={setSystemId}
        />
      )}
      <View className="self-start">
        <Button
          label={to ? say`Move this visit to ${to.name}` : say`Move this visit`}
          kind="danger"
          disabled={to === null}
          onPress={() => void move()}
        />
      </View>
    </View>
  )
}
