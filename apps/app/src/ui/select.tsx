export interface SelectProps<V extends string> {
  label: string
  value: V | ''
  /** What stands for nothing chosen. */
  none: string
  groups: readonly { label: string; options: readonly { value: V; label: string; disabled?: boolean }[] }[]
  onChange: (value: V | '') => void
}

/** One of many: the browser's own list, which phones and screen readers know best. */
export function Select<V extends string>({ label, value, none, groups, onChange }: SelectProps<V>) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value as V | '')}
      className={`min-h-[48px] w-full rounded-card border-2 bg-sheet px-2 font-text text-[16px] text-ink ${value === '' ? 'border-line' : 'border-kelp'}`}
    >
      <option value="">{none}</option>
      {groups.map((group) => (
        <optgroup key={group.label} label={group.label}>
          {group.options.map((option) => (
            <option key={option.value} value={option.value} disabled={option.disabled}>
              {option.label}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  )
}
