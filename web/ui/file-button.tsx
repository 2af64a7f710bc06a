'use client'

import { useRef } from 'react'
import { Button } from './controls'

/** A button that asks for a file; the same file may be chosen again. @example <FileButton label="Tasks file" accept=".csv" onFile={take}>Choose file</FileButton> */
export function FileButton({ label, accept, onFile, children }: { label: string; accept: string; onFile(f: File): void; children: string }) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button onPress={() => input.current?.click()}>{children}</Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        hidden
        aria-label={label}
        onChange={(e) => {
          const f = e.target.files?.[0]
          e.target.value = ''
          if (f) onFile(f)
        }}
      />
    </>
  )
}
