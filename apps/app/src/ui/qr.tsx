import qrcode from 'qrcode-generator'
import { useMemo } from 'react'
import { View } from 'react-native'
import Svg, { Path, Rect } from 'react-native-svg'

/** Quiet modules round the code, as readers want them. */
const QUIET = 4

/** Text as a square code for a phone's camera, always dark on white. */
export function QrCode({ text, size, label }: { text: string; size: number; label: string }) {
  const { path, side } = useMemo(() => {
    const code = qrcode(0, 'M')
    code.addData(text)
    code.make()
    const count = code.getModuleCount()
    const dark: string[] = []
    for (let y = 0; y < count; y++) for (let x = 0; x < count; x++) if (code.isDark(y, x)) dark.push(`M${x + QUIET} ${y + QUIET}h1v1h-1z`)
    return { path: dark.join(''), side: count + 2 * QUIET }
  }, [text])
  return (
    <View role="img" aria-label={label} style={{ width: size, height: size }}>
      <Svg width={size} height={size} viewBox={`0 0 ${side} ${side}`}>
        <Rect width={side} height={side} fill="#fff" />
        <Path d={path} fill="#000" />
      </Svg>
    </View>
  )
}
