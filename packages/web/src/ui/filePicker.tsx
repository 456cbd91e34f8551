import { useRef } from 'react'
import { Button } from './button'

interface FilePickerProps {
  /** What the button says. */
  readonly children: string
  /** How the field is called for whoever does not see it. */
  readonly label: string
  /** Endings and types that the machine offers first, with commas between them. */
  readonly accept: string
  readonly size?: 'tall'
  /** On a phone the camera is opened; a laptop asks for a file all the same. */
  readonly camera?: boolean
  readonly onFile: (file: File) => void
}

/** A button that asks for a file of this machine. The same file can be chosen again after it was put right. */
export function FilePicker({ children, label, accept, size, camera = false, onFile }: FilePickerProps) {
  const field = useRef<HTMLInputElement>(null)
  return (
    <>
      <input
        ref={field}
        type="file"
        accept={accept}
        {...(camera && { capture: 'environment' })}
        aria-label={label}
        className="sr-only"
        onChange={(event) => {
          const [file] = event.target.files ?? []
          event.target.value = ''
          if (file) onFile(file)
        }}
      />
      <Button {...(size && { size })} onClick={() => field.current?.click()}>
        {children}
      </Button>
    </>
  )
}

/** Hands a value to the machine as a JSON file of this name. */
export const saveJson = (name: string, value: unknown): void =>
  saveText(name, `${JSON.stringify(value, null, 2)}\n`, 'application/json')

/** Hands a text to the machine as a file of this name. */
export function saveText(name: string, text: string, type: 'text/csv' | 'text/plain' | 'application/json'): void {
  const url = URL.createObjectURL(new Blob([text], { type }))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  URL.revokeObjectURL(url)
}
