import type { SiteDto } from '@evenround/contract/site'
import { addressText } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { keepSiteEdit } from '../../data/site-edit'
import { Button } from '../../ui/button'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { FormEnd } from './form-fields'
import { useSavedForm } from './saved-form'
import { formFieldOf, SiteFields, siteSchema, siteToForm } from './site-fields'

/** Edits a site; an edit made on an old version shows both sides instead of overwriting. */
export function SiteForm({ site, onDone }: { site: SiteDto; onDone: () => void }) {
  const [theirs, setTheirs] = useState<SiteDto | null>(null)
  const { control, form, submit, problem, busy, goOnFrom } = useSavedForm({
    schema: siteSchema,
    values: siteToForm(site),
    version: site.version,
    fieldOf: formFieldOf,
    onTheirs: (current) => setTheirs(current as SiteDto | null),
    save: async (read, version) => {
      try {
        await ask(api.sites[':id'].$put({ param: { id: site.id }, json: { version, ...read } }))
        await Promise.all([KEY.site(site.id), KEY.sites, KEY.today].map((queryKey) => queryClient.invalidateQueries({ queryKey })))
      } catch (error) {
        if (!(error instanceof ApiProblem && error.code === 'OFFLINE')) throw error
        await keepSiteEdit(site, read)
      }
      onDone()
    },
  })
  return (
    <View className="max-w-[820px] gap-4">
      {theirs ? (
        <Notice tone="look" title={say`Somebody changed this site meanwhile`} live>
          <T>{say`Now: ${theirs.name}, ${addressText(theirs)}; ${theirs.people} people. ${theirs.access}`}</T>
          <View className="flex-row flex-wrap gap-2 pt-2">
            <Button
              label={say`Take theirs`}
              onPress={() => {
                form.reset(siteToForm(theirs))
                goOnFrom(theirs.version)
              }}
            />
            <Button label={say`Keep mine and save again`} onPress={() => goOnFrom(theirs.version)} />
          </View>
        </Notice>
      ) : null}
      <SiteFields control={control} />
      <FormEnd problem={problem} busy={busy} act={say`Save`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
