import { databaseAnswers } from '@/server/health'

export const dynamic = 'force-dynamic'
/** Is the application up, its database too? */
export async function GET() {
  const up = await databaseAnswers()
  return Response.json({ ok: up }, { status: up ? 200 : 503 })
}
