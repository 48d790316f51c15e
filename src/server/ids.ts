/** Ids of rows: UUIDs. */
const UUID = /^[\da-f]{8}-([\da-f]{4}-){3}[\da-f]{12}$/

/** Ids that are none never reach the database. */
export const isId = (id: unknown): id is string => typeof id === 'string' && UUID.test(id)
