export { uuid7 } from '../device/ids'

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/
/** The form of every id here; anything else never reaches the database. */
export const isUuid = (id: string) => UUID.test(id)
