import { sql } from 'kysely'
import { database } from './database'

/** Can the application reach its database? */
export async function databaseAnswers(): Promise<boolean> {
  try {
    await sql`SELECT 1`.execute(database().db)
    return true
  } catch {
    return false
  }
}
