'use client'

export default function Failed({ reset }: { error: Error; reset(): void }) {
  return (
    <main style={{ padding: 24 }}>
      <h1>The record could not be reached</h1>
      <p>Nothing was lost. Try again; if it stays so, the application is restarted with bin/start.</p>
      <button type="button" onClick={reset} style={{ minHeight: 48, padding: '0 18px' }}>
        Try again
      </button>
    </main>
  )
}
