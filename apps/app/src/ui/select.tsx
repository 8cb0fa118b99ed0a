import { T } from './text'

interface SelectProps<V extends string> {
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

interface FilePickProps {
  label: string
  /** Endings and types the dialog offers. */
  accept: string
  onFile: (file: File) => void
}

/** The browser's own way to a file, as wide as a thumb. */
export function FilePick({ label, accept, onFile }: FilePickProps) {
  return (
    <label className="flex min-h-[56px] cursor-pointer items-center justify-center rounded-card border-2 border-kelp bg-kelp px-4 py-2 focus-within:outline focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-brine">
      <T className="font-text-bold text-[18px] text-on-kelp">{label}</T>
      <input
        type="file"
        accept={accept}
        className="absolute h-0 w-0 opacity-0"
        onChange={(event) => {
          const [file] = event.target.files ?? []
          if (file) onFile(file)
          // The same file chosen again is a choice too.
          event.target.value = ''
        }}
      />
    </label>
  )
}
