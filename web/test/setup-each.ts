import { configure } from '@testing-library/react'
import { device } from '../device/db'
import { forgetEarlier } from '../device/earlier'
import { forgetStores } from '../device/stores'

// A state is waited for as long as it takes on a machine that is busy; a second says nothing of it.
configure({ asyncUtilTimeout: 60_000 })

// What one test typed, recorded or kept on the device is not there in the next.
beforeEach(async () => {
  sessionStorage.clear()
  for (const key of Object.keys(localStorage)) if (key.startsWith('half ')) localStorage.removeItem(key)
  // Nor what it chose for its device: units and theme.
  // biome-ignore lint/suspicious/noDocumentCookie: as the application writes them itself
  for (const name of ['units', 'theme']) document.cookie = `${name}=; path=/; max-age=0`
  forgetStores()
  forgetEarlier()
  const db = device()
  await db.open()
  await Promise.all(db.tables.map((t) => t.clear()))
})
