import { type Kysely, type MigrationProvider, Migrator } from 'kysely'
import * as accounts from './001-accounts'
import * as record from './002-record'
import * as catalogue from './003-catalogue'
import * as photos from './004-photos'
import * as founded from './005-founded'
import * as rules from './006-rules'
import * as devices from './007-devices'
import * as planning from './008-planning'
import * as trust from './009-trust'
import * as overview from './010-overview'
import * as outside from './011-outside'
import * as linkMakers from './012-link-makers'
import * as deviceClocks from './013-device-clocks'
import * as houseMarks from './014-house-marks'

const provider: MigrationProvider = {
  getMigrations: async () => ({
    '001-accounts': accounts,
    '002-record': record,
    '003-catalogue': catalogue,
    '004-photos': photos,
    '005-founded': founded,
    '006-rules': rules,
    '007-devices': devices,
    '008-planning': planning,
    '009-trust': trust,
    '010-overview': overview,
    '011-outside': outside,
    '012-link-makers': linkMakers,
    '013-device-clocks': deviceClocks,
    '014-house-marks': houseMarks,
  }),
}

/** Brings the database up to date; run as the owner of its tables. */
export async function migrate(db: Kysely<never>): Promise<readonly string[]> {
  const { error, results } = await new Migrator({ db, provider }).migrateToLatest()
  if (error) throw error
  return (results ?? []).map((r) => r.migrationName)
}
