import type { AuditDto, Audited, FirmFileDto } from '@evenround/contract/export'
import { many, numberText, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { queryClient, useMe } from '../../data/queries'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { instantText, shortDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

const KEYS = { file: ['firm-file'], audit: ['audit'], looks: ['audit', 'looks'] } as const
/** While it is being made somebody waits for it. */
const LOOK_AGAIN_MS = 1500

/** Everything the firm keeps, in one file; and the record of what was exported and erased. */
export function FirmData() {
  const me = useMe()
  const may = me.data?.rights.includes('export-firm') === true
  const file = useQuery({
    queryKey: KEYS.file,
    queryFn: () => ask(api['firm-file'].$get()),
    staleTime: 0,
    enabled: may,
    refetchInterval: ({ state }) => (state.data?.file?.state === 'asked' ? LOOK_AGAIN_MS : false),
  })
  const audit = useQuery({ queryKey: KEYS.audit, queryFn: () => ask(api.audit.$get()), staleTime: 0, enabled: may })
  const back = <BackLink href="/firm" label={say`The firm`} />
  if (me.data && !may)
    return (
      <Screen over={back} title={say`The firm’s data`}>
        <T kind="quiet">{say`Only an owner can take the firm’s data out.`}</T>
      </Screen>
    )
  const zone = me.data?.firm.timeZone ?? 'UTC'
  return (
    <Screen over={back} title={say`The firm’s data`} wide>
      <View className="flex-row flex-wrap gap-4">
        <View className="min-w-[300px] flex-1 gap-3 rounded-card border-2 border-line bg-sheet p-4">
          <T kind="heading" level={2}>
            {say`Everything in one file`}
          </T>
          <T>
            {say`Sites, systems, every visit and reading, the catalogue, the round, the photos: as a ZIP with spreadsheets (CSV), JSON with its description, pictures, and each site’s past in words. An empty installation brings the same firm in from it.`}
          </T>
          <T kind="quiet">{say`Passwords are not in it. Customers’ names, telephones and access notes are: keep it as you keep their keys.`}</T>
          {file.data ? (
            <TheFile file={file.data.file} zone={zone} />
          ) : file.error ? (
            <Failed what={say`The file cannot be shown`} error={file.error} onRetry={() => void file.refetch()} />
          ) : (
            <Waiting />
          )}
        </View>
        <View className="min-w-[300px] flex-1 gap-2 rounded-card border-2 border-line bg-sheet p-4">
          <T kind="heading" level={2}>
            {say`What was done with the firm’s data`}
          </T>
          <T kind="quiet">{say`Who did it and when. Nobody can change this record.`}</T>
          {audit.data?.deeds.length === 0 ? <T>{say`Nothing yet.`}</T> : null}
          {audit.data?.deeds.map((deed) => (
            <Deed key={deed.id} deed={deed} zone={zone} />
          ))}
          {audit.error ? <Failed what={say`The record cannot be shown`} error={audit.error} onRetry={() => void audit.refetch()} /> : null}
        </View>
        <View className="min-w-[300px] flex-1 gap-2 rounded-card border-2 border-line bg-sheet p-4">
          {may ? <Looks today={me.data?.today ?? ''} /> : null}
        </View>
      </View>
    </Screen>
  )
}

/** Whose pages were opened by whom, day by day. */
function Looks({ today }: { today: string }) {
  const looks = useQuery({ queryKey: KEYS.looks, queryFn: () => ask(api.audit.looks.$get()), staleTime: 0 })
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Customers’ pages that were opened`}
      </T>
      <T kind="quiet">{say`In the last month, once a day for each person. Stops of a day’s round are not counted.`}</T>
      {looks.data?.looks.length === 0 ? <T>{say`Nothing yet.`}</T> : null}
      {looks.data?.looks.map(({ day, person, count, names }) => (
        <View key={`${day}${person}`} className="gap-1 border-t-2 border-line py-2">
          <T kind="strong">{`${shortDay(day, today)} · ${person} · ${many(count, 'customer', 'customers')}`}</T>
          <T>{names.join(', ') + (count > names.length ? say` and ${count - names.length} more` : '')}</T>
        </View>
      ))}
      {looks.error ? <Failed what={say`The record cannot be shown`} error={looks.error} onRetry={() => void looks.refetch()} /> : null}
    </View>
  )
}

const WHAT: Record<Audited, string> = {
  'firm-exported': say`Whole firm exported`,
  'firm-brought-in': say`Firm imported`,
  'customer-exported': say`Customer’s data exported`,
  'customer-erased': say`Customer erased`,
  'second-factor-removed': say`Second factor removed`,
  'cautions-signed': say`Cautions of a language signed off`,
  'rights-changed': say`Rights changed`,
  'round-published': say`Round published`,
  'hold-lifted': say`Safety hold lifted`,
  'list-exported': say`List exported`,
}

function Deed({ deed, zone }: { deed: AuditDto; zone: string }) {
  return (
    <View className="gap-1 border-t-2 border-line py-2">
      <T kind="strong">{WHAT[deed.what]}</T>
      <T>{deed.said}</T>
      <T kind="small">{`${deed.person ?? say`From the server’s shell`}, ${instantText(deed.at, zone)}`}</T>
    </View>
  )
}

const MB = 1024 * 1024
const sizeText = (bytes: number): string => (bytes < MB ? say`${Math.ceil(bytes / 1024)} kB` : say`${(bytes / MB).toFixed(1)} MB`)

function TheFile({ file, zone }: { file: FirmFileDto | null; zone: string }) {
  const [problem, setProblem] = useState<string | null>(null)
  const prepare = async (): Promise<void> => {
    setProblem(null)
    try {
      queryClient.setQueryData(KEYS.file, await ask(api['firm-file'].$post()))
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.message : say`It could not be asked for. Try again.`)
    }
    await queryClient.invalidateQueries({ queryKey: KEYS.audit })
  }
  const asked = file?.state === 'asked'
  return (
    <View className="gap-3" aria-live="polite">
      {file?.state === 'made' ? (
        <>
          <T kind="strong">{say`Ready since ${instantText(file.madeAt ?? file.askedAt, zone)}: ${numberText(file.rows ?? 0)} rows, ${sizeText(file.bytes ?? 0)}`}</T>
          <a href={`/api/firm-file/${file.id}`} download className="block">
            <View className="min-h-[56px] items-center justify-center rounded-card bg-kelp px-4">
              <T kind="strong" className="text-on-kelp">
                {say`Download the file`}
              </T>
            </View>
          </a>
          <T kind="small">{say`Asked for by ${file.askedBy}. It is deleted on ${instantText(file.until, zone)}.`}</T>
        </>
      ) : null}
      {file?.state === 'failed' ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {say`The file could not be made. Try again; if it fails again, the server’s log says why.`}
        </T>
      ) : null}
      {problem ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      {asked ? <Waiting what={say`The file is being made. You may leave this page`} /> : null}
      <Button
        label={file?.state === 'made' ? say`Prepare a new file` : say`Prepare the file`}
        kind={file?.state === 'made' ? 'plain' : 'act'}
        size="big"
        disabled={asked}
        onPress={() => void prepare()}
      />
    </View>
  )
}
