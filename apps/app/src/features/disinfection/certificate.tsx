import type { Certificate } from '@evenround/core/job'
import { numberText, say } from '@evenround/core/words'
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
  const back = <BackLink href={`/disinfect/${id}`} label={say`The job`} />
  const made = page.data
  if (!made) {
    return (
      <Screen over={back} title={say`Certificate`}>
        {page.error ? <Failed what={say`There is no certificate`} error={page.error} /> : <Waiting what={say`Loading the certificate`} />}
      </Screen>
    )
  }
  const at = (instant: string): string => instantText(instant, zone)
  const save = (): void => saveAs(`disinfection-${made.jobId}.json`, JSON.stringify(made, null, 2), 'application/json')
  const { contact, sample, result } = made
  return (
    <Screen
      over={back}
      title={result ? say`Disinfection certificate` : say`Disinfection record`}
      aside={<Button label={say`Save as JSON`} onPress={save} />}
    >
      <Row label={say`Firm`} text={made.firm} />
      <Row label={say`Site`} text={`${made.site.name}, ${made.site.address}`} />
      <Row
        label={say`What`}
        text={`${made.targets.map((target) => TARGET_WORDS[target as keyof typeof TARGET_WORDS]).join(', ')} · ${REASON_WORDS[made.reason as keyof typeof REASON_WORDS]}`}
      />
      <Row label={say`Water`} text={made.computed ? quantity(made.volumeL, 'volume', units) : say`Volume not known: not computed`} />
      <Row
        label={say`Dose`}
        text={made.doses
          .map((dose) => say`${amountText(dose.amount, dose.unit, units)} of ${made.product.name}, ${at(dose.at)}, ${dose.by}`)
          .join('\n')}
      />
      <Row
        label={say`Contact`}
        text={inTrade(
          say`From ${at(contact.from)}, ${figure(contact.hours)} h; ${contact.achievedMgMinL === null ? say`not measured` : say`${numberText(Math.round(contact.achievedMgMinL))} of ${numberText(Math.round(contact.requiredMgMinL))} mg·min/L${contact.slowWater ? say`, twice the usual in slow water` : ''}`}; last strip ${contact.lastMgL === null ? '–' : say`${figure(contact.lastMgL)} mg/L`}. ${contact.passed ? say`Enough.` : say`Not enough by strips.`}${contact.note ? ` ${contact.note}` : ''}${contact.lessReason ? say` Planned for less than usual: ${contact.lessReason}` : ''}`,
          units,
        )}
      />
      <View className="gap-1">
        <T kind="label">{say`Outlets`}</T>
        {made.outlets.map((outlet) => (
          <T key={outlet.name}>{inTrade(outletText(outlet), units)}</T>
        ))}
      </View>
      <Row label={say`Flushed`} text={at(made.flushedAt)} />
      {sample ? (
        <Row
          label={say`Sample`}
          text={say`Bottle ${sample.bottle}, ${at(sample.takenAt)}, ${sample.place}, ${sample.by}; ${sample.laboratory}; chlorine ${figure(sample.chlorineMgL)} ${inTrade('mg/L', units)}`}
        />
      ) : null}
      {result ? (
        <Row
          label={say`Result`}
          text={say`Report ${result.reportNumber} of ${result.day}: total coliform ${result.totalColiform}, E. coli ${result.eColi}${result.others.map(({ name, value }) => `; ${name} ${value}`).join('')}`}
        />
      ) : (
        <Row label={say`Result`} text={say`No sample was taken: strips show the chlorine out, and nothing is proved of germs.`} />
      )}
      <T kind="small">{made.note}</T>
    </Screen>
  )
}

/** What its strips showed; one that nobody ran is not proved by that. */
function outletText({ name, arrivalMgL, clearMgL, note }: Certificate['outlets'][number]): string {
  const clear = clearMgL === null ? say`not proved: no strip after the flush` : say`${figure(clearMgL)} mg/L after the flush`
  return note === null ? say`${name}: ${figure(arrivalMgL ?? 0)} mg/L on arrival, ${clear}` : say`${name}: not run (${note}); ${clear}`
}

function Row({ label, text }: { label: string; text: string }) {
  return (
    <View className="gap-0.5 border-t-2 border-line pt-2">
      <T kind="label">{label}</T>
      <T>{text}</T>
    </View>
  )
}
