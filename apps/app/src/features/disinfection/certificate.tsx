import type { Certificate } from '@evenround/core/job'
import { View } from 'react-native'
import { useCertificate, useMe } from '../../data/queries'
import { useUnits } from '../../data/units'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { figure, instantText, inTrade, quantity } from '../../ui/format'
import { saveAs } from '../../ui/save-as'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { amountText, REASON_WORDS, TARGET_WORDS } from './words'

/** The record of a proved disinfection, to be read, printed by the browser, or handed on as JSON. */
export function CertificatePage({ id }: { id: string }) {
  const page = useCertificate(id)
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const units = useUnits()
  const back = <BackLink href={`/disinfect/${id}`} label="The job" />
  const made = page.data
  if (!made) {
    return (
      <Screen over={back} title="Certificate">
        {page.error ? <Failed what="There is no certificate" error={page.error} /> : <Waiting what="Loading the certificate" />}
      </Screen>
    )
  }
  const at = (instant: string): string => instantText(instant, zone)
  const save = (): void => saveAs(`disinfection-${made.jobId}.json`, JSON.stringify(made, null, 2), 'application/json')
  const { contact, sample, result } = made
  return (
    <Screen
      over={back}
      title={result ? 'Disinfection certificate' : 'Disinfection record'}
      aside={<Button label="Save as JSON" onPress={save} />}
    >
      <Row label="Firm" text={made.firm} />
      <Row label="Site" text={`${made.site.name}, ${made.site.address}`} />
      <Row
        label="What"
        text={`${made.targets.map((target) => TARGET_WORDS[target as keyof typeof TARGET_WORDS]).join(', ')} · ${REASON_WORDS[made.reason as keyof typeof REASON_WORDS]}`}
      />
      <Row label="Water" text={made.computed ? quantity(made.volumeL, 'volume', units) : 'Volume not known: not computed'} />
      <Row
        label="Dose"
        text={made.doses
          .map((dose) => `${amountText(dose.amount, dose.unit, units)} of ${made.product.name}, ${at(dose.at)}, ${dose.by}`)
          .join('\n')}
      />
      <Row
        label="Contact"
        text={inTrade(
          `From ${at(contact.from)}, ${figure(contact.hours)} h; ${contact.achievedMgMinL === null ? 'not measured' : `${Math.round(contact.achievedMgMinL).toLocaleString('en-GB')} of ${Math.round(contact.requiredMgMinL).toLocaleString('en-GB')} mg·min/L${contact.slowWater ? ', twice the usual in slow water' : ''}`}; last strip ${contact.lastMgL === null ? '–' : `${figure(contact.lastMgL)} mg/L`}. ${contact.passed ? 'Enough.' : 'Not enough by strips.'}${contact.note ? ` ${contact.note}` : ''}${contact.lessReason ? ` Planned for less than usual: ${contact.lessReason}` : ''}`,
          units,
        )}
      />
      <View className="gap-1">
        <T kind="label">Outlets</T>
        {made.outlets.map((outlet) => (
          <T key={outlet.name}>{inTrade(outletText(outlet), units)}</T>
        ))}
      </View>
      <Row label="Flushed" text={at(made.flushedAt)} />
      {sample ? (
        <Row
          label="Sample"
          text={`Bottle ${sample.bottle}, ${at(sample.takenAt)}, ${sample.place}, ${sample.by}; ${sample.laboratory}; chlorine ${figure(sample.chlorineMgL)} ${inTrade('mg/L', units)}`}
        />
      ) : null}
      {result ? (
        <Row
          label="Result"
          text={`Report ${result.reportNumber} of ${result.day}: total coliform ${result.totalColiform}, E. coli ${result.eColi}${result.others.map(({ name, value }) => `; ${name} ${value}`).join('')}`}
        />
      ) : (
        <Row label="Result" text="No sample was taken: strips show the chlorine out, and nothing is proved of germs." />
      )}
      <T kind="small">{made.note}</T>
    </Screen>
  )
}

/** What its strips showed; one that nobody ran is not proved by that. */
function outletText({ name, arrivalMgL, clearMgL, note }: Certificate['outlets'][number]): string {
  const clear = clearMgL === null ? 'not proved: no strip after the flush' : `${figure(clearMgL)} mg/L after the flush`
  return note === null ? `${name}: ${figure(arrivalMgL ?? 0)} mg/L on arrival, ${clear}` : `${name}: not run (${note}); ${clear}`
}

function Row({ label, text }: { label: string; text: string }) {
  return (
    <View className="gap-0.5 border-t-2 border-line pt-2">
      <T kind="label">{label}</T>
      <T>{text}</T>
    </View>
  )
}
