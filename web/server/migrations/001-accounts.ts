import { type Kysely, sql } from 'kysely'

/** Companies, people, sessions (the shape the accounts library expects, see its test) and sign-in throttling. */
export async function up(db: Kysely<never>) {
  await sql`
    CREATE TABLE company (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      name text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    )`.execute(db)
  await sql`
    CREATE TABLE "user" (
      id text PRIMARY KEY,
      name text NOT NULL,
      email text NOT NULL UNIQUE,
      "emailVerified" boolean NOT NULL DEFAULT false,
      image text,
      "createdAt" timestamptz NOT NULL DEFAULT now(),
      "updatedAt" timestamptz NOT NULL DEFAULT now(),
      role text NOT NULL CHECK (role IN ('foreman', 'crew', 'inspector', 'office')),
      "companyId" text NOT NULL
    )`.execute(db)
  await sql`
    CREATE TABLE session (
      id text PRIMARY KEY,
      "expiresAt" timestamptz NOT NULL,
      token text NOT NULL UNIQUE,
      "createdAt" timestamptz NOT NULL DEFAULT now(),
      "updatedAt" timestamptz NOT NULL,
      "ipAddress" text,
      "userAgent" text,
      "userId" text NOT NULL REFERENCES "user" (id) ON DELETE CASCADE
    )`.execute(db)
  await sql`CREATE INDEX session_by_user ON session ("userId")`.execute(db)
  await sql`
    CREATE TABLE account (
      id text PRIMARY KEY,
      "accountId" text NOT NULL,
      "providerId" text NOT NULL,
      "userId" text NOT NULL REFERENCES "user" (id) ON DELETE CASCADE,
      "accessToken" text, "refreshToken" text, "idToken" text,
      "accessTokenExpiresAt" timestamptz, "refreshTokenExpiresAt" timestamptz,
      scope text, password text,
      "createdAt" timestamptz NOT NULL DEFAULT now(),
      "updatedAt" timestamptz NOT NULL
    )`.execute(db)
  await sql`CREATE INDEX account_user ON account ("userId")`.execute(db)
  await sql`
    CREATE TABLE verification (
      id text PRIMARY KEY,
      identifier text NOT NULL,
      value text NOT NULL,
      "expiresAt" timestamptz NOT NULL,
      "createdAt" timestamptz NOT NULL DEFAULT now(),
      "updatedAt" timestamptz NOT NULL DEFAULT now()
    )`.execute(db)
  await sql`CREATE INDEX verification_identifier ON verification (identifier)`.execute(db)
  await sql`CREATE TABLE sign_in_throttle (key varchar(255) PRIMARY KEY, points integer NOT NULL DEFAULT 0, expire bigint)`.execute(db)
  await sql`GRANT SELECT, INSERT, UPDATE, DELETE ON "user", session, account, verification, sign_in_throttle TO tally_app`.execute(db)
  await sql`GRANT SELECT, INSERT ON company TO tally_app`.execute(db)
}
