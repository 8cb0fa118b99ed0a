import { say } from '@evenround/core/words'
import { Pressable, View } from 'react-native'
import Svg, { Rect } from 'react-native-svg'
import type { Finding } from '../../data/visit-acts'
import { Choice } from '../../ui/choice'
import { COLOR } from '../../ui/colors'
import { T } from '../../ui/text'
import { GRADES } from './grades'

interface FindingProps {
  finding: Finding
  onChange: (finding: Finding) => void
  /** Whether anything follows that dirt could have reached. */
  asksDirt: boolean
}

/** Five drawn grades of what came out, and whether dirt got past it. */
export function FindingChoice({ finding, onChange, asksDirt }: FindingProps) {
  return (
    <View className="gap-4">
      <View className="flex-row gap-1" role="radiogroup" aria-label={say`How was it?`}>
        {GRADES.map(({ grade, word, says, fill }) => {
          const chosen = finding.found === grade
          return (
            <Pressable
              key={grade}
              role="radio"
              aria-checked={chosen}
              aria-label={`${word}: ${says}`}
              onPress={() => onChange({ ...finding, found: grade })}
              className={`min-h-[104px] flex-1 items-center justify-center gap-1 rounded-card border-2 py-2 ${chosen ? 'border-kelp' : 'border-transparent'}`}
            >
              <Svg width={34} height={60} viewBox="0 0 34 60" aria-hidden>
                <Rect x={2} y={2} width={30} height={56} rx={6} fill={COLOR.sheet} />
                <Rect x={4} y={4 + 52 * (1 - fill)} width={26} height={52 * fill} rx={4} fill={COLOR.copper} opacity={0.35 + 0.5 * fill} />
                <Rect
                  x={2}
                  y={2}
                  width={30}
                  height={56}
                  rx={6}
                  fill="none"
                  stroke={chosen ? COLOR.kelp : COLOR.ink}
                  strokeWidth={chosen ? 4 : 2}
                />
              </Svg>
              <T kind="small" className={`font-text-bold text-center ${chosen ? 'text-kelp' : 'text-ink'}`}>
                {word}
              </T>
            </Pressable>
          )
        })}
      </View>
      {asksDirt ? (
        <Choice
          label={say`Did dirt get past it?`}
          value={finding.dirtPast === null ? null : finding.dirtPast ? 'past' : 'clean'}
          options={[
            { value: 'past', label: say`Dirt got past` },
            { value: 'clean', label: say`Clean after it` },
          ]}
          onChange={(value) => onChange({ ...finding, dirtPast: value === 'past' })}
        />
      ) : null}
    </View>
  )
}
