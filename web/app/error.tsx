'use client'

export default function Failed({ reset }: { error: Error; reset(): void }) {
  return (
    <main style={{ padding: 24 }}>
      <h1>This page could not be shown</h1>
      <p>
        Try again, then look at the Board whether your last entry is there or still waits to be sent. If it stays so, the application is restarted
        with bin/start.
      </p>
      <button type="button" onClick={reset} style={{ minHeight: 48, padding: '0 18px' }}>
        Try again
      </button>
    </main>
  )
}
