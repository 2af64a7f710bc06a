import type { Page } from '@playwright/test'

/** How many things a device keeps in each of these, of one wall or in all. Negative while the page is loaded anew. */
export const counts = (page: Page, stores: readonly ('walls' | 'pages' | 'outbox' | 'refused' | 'photos')[], wall?: string): Promise<number[]> =>
  page
    .evaluate(
      ([stores, wall]) =>
        new Promise<number[]>((done, failed) => {
          const asked = indexedDB.open('stone-tally')
          asked.onerror = () => failed(asked.error)
          asked.onsuccess = () => {
            const read = asked.result.transaction(stores)
            const got = stores.map((name) => {
              const store = read.objectStore(name)
              return wall === undefined ? store.count() : name === 'walls' ? store.count(wall) : store.index('wall').count(wall)
            })
            read.oncomplete = () => {
              asked.result.close()
              done(got.map((g) => g.result))
            }
          }
        }),
      [[...stores], wall] as [string[], string | undefined],
    )
    .catch(() => stores.map(() => -1))

/** How many entries a device holds for the house. */
export const boxed = async (page: Page, wall?: string): Promise<number> => (await counts(page, ['outbox'], wall))[0] as number
/** Is the wall kept on the device? */
export const kept = async (page: Page, wall: string): Promise<boolean> => (await counts(page, ['walls'], wall))[0] === 1

/** Puts the same waiting entry in again, so often, each with its own number in its text. */
export const multiply = (page: Page, times: number): Promise<void> =>
  change(
    page,
    'outbox',
    `const { n, ...one } = all[0]
    // Never the id of the one it is made from, whatever that ends with.
    const mark = one.id.at(-3) === 'a' ? 'b' : 'a'
    for (let i = 1; i < ${times}; i++) {
    const two = String(i).padStart(2, '0')
    store.add({ ...one, id: one.id.slice(0, -3) + mark + two, data: { text: 'waiting ' + two } })
  }`,
  )
/** As if the house had last spoken of the person so many days ago. */
export const longAgo = (page: Page, days: number): Promise<void> =>
  change(
    page,
    'notes',
    `const found = all.find((n) => n.key === 'session')
    store.put({ key: 'session', value: { ...found.value, at: Date.now() - ${days} * 86400000 } })`,
  )

/** Gives the device one entry more of a wall than the house has. */
export const ahead = async (page: Page, wall: string): Promise<void> => {
  await change(
    page,
    'pages',
    `const last = all.filter((p) => p.wall === '${wall}').at(-1)
    const line = JSON.parse(last.text.trim().split('\\n').at(-1))
    const more = { ...line, seq: line.seq + 1, entry: { ...line.entry, id: line.entry.id.slice(0, -2) + (line.entry.id.endsWith('ff') ? 'fe' : 'ff'), data: { text: 'only here' } } }
    store.put({ ...last, to: more.seq, text: last.text + JSON.stringify(more) + '\\n' })`,
  )
  await change(
    page,
    'heads',
    `const head = all.find((h) => h.wall === '${wall}')
    store.put({ ...head, seq: head.seq + 1, hash: 'ff'.repeat(32) })`,
  )
}

/** @param what - done to `all` that is there and the `store` itself */
const change = (page: Page, name: string, what: string): Promise<void> =>
  page.evaluate(`new Promise((done, failed) => {
    const asked = indexedDB.open('stone-tally')
    asked.onsuccess = () => {
      const store = asked.result.transaction('${name}', 'readwrite').objectStore('${name}')
      const got = store.getAll()
      got.onsuccess = () => {
        const all = got.result
        ${what}
      }
      store.transaction.onabort = () => failed(store.transaction.error)
      store.transaction.oncomplete = () => { asked.result.close(); done() }
    }
  })`)
