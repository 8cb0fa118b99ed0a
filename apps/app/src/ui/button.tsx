import { Pressable, Text } from 'react-native'

export interface ButtonProps {
  label: string
  onPress: () => void
  kind?: 'act' | 'plain' | 'danger'
  size?: 'big' | 'normal'
  disabled?: boolean
  /** Takes the room that is left beside its neighbours. */
  grow?: boolean
  testID?: string
  hint?: string
}

const BOX = {
  act: 'bg-kelp border-kelp active:opacity-80',
  plain: 'bg-sheet border-line active:bg-line',
  danger: 'bg-sheet border-oxblood active:bg-line',
} as const
const LABEL = { act: 'text-on-kelp', plain: 'text-ink', danger: 'text-oxblood' } as const

export function Button({ label, onPress, kind = 'plain', size = 'normal', disabled = false, grow = false, testID, hint }: ButtonProps) {
  const height = size === 'big' ? 'min-h-[56px]' : 'min-h-[48px]'
  return (
    <Pressable
      role="button"
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      testID={testID}
      accessibilityHint={hint}
      className={`${height} ${grow ? 'shrink grow basis-[128px]' : ''} max-w-full items-center justify-center rounded-card border-2 px-4 py-2 ${disabled ? 'bg-paper border-line' : BOX[kind]}`}
    >
      <Text
        className={`text-center font-text-bold ${size === 'big' ? 'text-[18px] leading-[22px]' : 'text-[16px] leading-[20px]'} ${disabled ? 'text-quiet' : LABEL[kind]}`}
      >
        {label}
      </Text>
    </Pressable>
  )
}
