import pg from 'pg'

// What recording can cost at least with this framework: a session looked up by one query, one INSERT that is on the disk when it answers.
const shared = globalThis as { pool?: pg.Pool }
const pool = () => {
  shared.pool ??= new pg.Pool({ connectionString: process.env.DATABASE_URL, max: 10 })
  return shared.pool
}

export async function POST(request: Request) {
  const body = (await request.json()) as { wall: string; id: string; body: string; token: string }
  const who = await pool().query({ name: 'who', text: 'SELECT "userId" FROM session WHERE token = $1 AND "expiresAt" > now()', values: [body.token] })
  if (who.rows.length === 0) return Response.json({}, { status: 401 })
  const made = await pool().query({
    name: 'one',
    text: 'INSERT INTO entry (wall_id, id, body) VALUES ($1, $2, $3) RETURNING seq',
    values: [body.wall, body.id, body.body],
  })
  return Response.json({ seq: made.rows[0].seq })
}
