import { type Dimension, inUnit, parseQuantity } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { useUnits } from '../../data/units'
import { Field } from '../../ui/field'
import { localDecimal } from '../../ui/locale'

export interface QuantityFieldProps {
  label: string
  dimension: Dimension
  /** Of the core's parser: assumed where none is typed, and shown beside the field. */
  unit: string
  /** As the unit is written. */
  unitText: string
  /** In the SI-side unit of its dimension; null while nothing, or nothing readable, stands there. */
  value: number | null
  onChange: (value: number | null) => void
  least?: number
  hint?: string
  /** What the form says of it, where the field itself has nothing to say. */
  problem?: string | undefined
  className?: string
}

const plain = (value: number): string => String(Math.round(value * 1000) / 1000).replace('.', localDecimal())

/** A number with its unit as people type it: `6 in`, `30 ft`, `12 gal`, `45 psi`, `1.2k`; what cannot be read is said under it. */
export function QuantityField({
  label,
  dimension,
  unit,
  unitText,
  value,
  onChange,
  least = 0,
  hint,
  problem,
  className,
}: QuantityFieldProps) {
  const { gallon } = useUnits()
  const [text, setText] = useState(() => (value === null ? '' : plain(dimension === 'number' ? value : inUnit(value, dimension, unit))))
  const read = parseQuantity(text, { dimension, unit, gallon, decimal: localDecimal() })
  const error =
    text.trim() === ''
      ? undefined
      : !read.ok
        ? say`Not understood; e.g. 12 ${unitText}`
        : read.value < least
          ? say`At least ${plain(dimension === 'number' ? least : inUnit(least, dimension, unit))} ${unitText}`
          : undefined
  const change = (next: string): void => {
    setText(next)
    const now = parseQuantity(next, { dimension, unit, gallon, decimal: localDecimal() })
    onChange(now.ok && now.value >= least ? now.value : null)
  }
  return (
    <Field
      label={label}
      value={text}
      onChangeText={change}
      unit={unitText}
      inputMode="text"
      maxLength={20}
      hint={hint}
      error={error ?? problem}
      className={className ?? ''}
    />
  )
}
