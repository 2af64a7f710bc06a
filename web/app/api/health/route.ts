import { healthOf } from '@/server/health'

export const dynamic = 'force-dynamic'
/**
 * Is the application up, its database too, and which part of the house is ill? Anybody may ask: it says how things are and nothing of what is in
 * them. 503 where nothing can be recorded.
 */
export async function GET() {
  const parts = await healthOf()
  const up = parts.every((p) => p.part !== 'database' || p.is === 'well')
  const ill = parts.filter((p) => p.is !== 'well').map((p) => p.part)
  return Response.json(
    { ok: up, ill, parts: Object.fromEntries(parts.map((p) => [p.part, p.is])) },
    { status: up ? 200 : 503, headers: { 'cache-control': 'no-store' } },
  )
}
