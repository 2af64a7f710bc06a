/** Once for each process that serves: it looks after the records by night. */
export async function register() {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || !process.env.DATABASE_URL) return
  const { everyNight } = await import('./server/nightly')
  everyNight()
}
