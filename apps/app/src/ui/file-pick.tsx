import { T } from './text'

interface FilePickProps {
  label: string
  /** Endings and types the dialog offers. */
  accept: string
  onFile: (file: File) => void
  /** A phone opens its camera instead of a dialog. */
  camera?: boolean
  kind?: 'act' | 'plain'
}

/** The browser's own way to a file, as wide as a thumb. */
export function FilePick({ label, accept, onFile, camera = false, kind = 'act' }: FilePickProps) {
  const look = kind === 'act' ? 'border-kelp bg-kelp' : 'border-line bg-sheet'
  return (
    <label
      className={`flex min-h-[56px] cursor-pointer items-center justify-center rounded-card border-2 ${look} px-4 py-2 focus-within:outline focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-brine`}
    >
      <T kind="strong" className={kind === 'act' ? 'text-on-kelp' : 'text-ink'}>
        {label}
      </T>
      <input
        type="file"
        accept={accept}
        {...(camera ? { capture: 'environment' as const } : {})}
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
