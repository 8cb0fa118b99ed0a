import type { SiteDto } from '@evenround/contract/site'
import { addressText } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { useForm } from 'react-hook-form'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { keepSiteEdit } from '../../data/site-edit'
import { Button } from '../../ui/button'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { type SiteForm as Form, formFieldOf, SiteFields, siteOfForm, siteToForm } from './site-fields'

/** Edits a site; an edit made on an old version shows both sides instead of overwriting. */
export function SiteForm({ site, onDone }: { site: SiteDto; onDone: () => void }) {
  const { control, handleSubmit, setError, reset, formState } = useForm<Form>({ defaultValues: siteToForm(site) })
  const [version, setVersion] = useState(site.version)
  const [theirs, setTheirs] = useState<SiteDto | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const save = handleSubmit(async (typed) => {
    setProblem(null)
    const read = siteOfForm(typed)
    if ('problems' in read) {
      for (const [name, message] of Object.entries(read.problems)) setError(name as keyof Form, { message })
      return
    }
    try {
      await ask(api.sites[':id'].$put({ param: { id: site.id }, json: { version, ...read.site } }))
      await Promise.all([KEY.site(site.id), KEY.sites, KEY.today].map((queryKey) => queryClient.invalidateQueries({ queryKey })))
      onDone()
    } catch (error) {
      if (error instanceof ApiProblem && error.code === 'OFFLINE') {
        try {
          await keepSiteEdit(site, read.site)
          return onDone()
        } catch {
          // What cannot be kept on the device is said as any other failure.
        }
      }
      if (error instanceof ApiProblem && error.code === 'STALE_VERSION') return setTheirs(error.current as SiteDto)
      if (error instanceof ApiProblem) for (const { path, message } of error.fields) setError(formFieldOf(path), { message })
      setProblem(error instanceof Error ? error.message : say`It could not be saved.`)
    }
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
                reset(siteToForm(theirs))
                setVersion(theirs.version)
                setTheirs(null)
              }}
            />
            <Button
              label={say`Keep mine and save again`}
              onPress={() => {
                setVersion(theirs.version)
                setTheirs(null)
              }}
            />
          </View>
        </Notice>
      ) : null}
      <SiteFields control={control} />
      {problem ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <View className="flex-row gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        <Button
          label={formState.isSubmitting ? say`Saving …` : say`Save`}
          kind="act"
          grow
          disabled={formState.isSubmitting}
          onPress={() => void save()}
        />
      </View>
    </View>
  )
}
