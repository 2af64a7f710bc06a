'use client'

import { useEffect, useState } from 'react'
import { Button } from 'react-aria-components'
import styled from 'styled-components'
import { setKeep } from '@/device/kept'
import { Ask } from '@/ui/controls'
import { later } from '@/ui/later'
import { useGo } from '@/ui/link'
import { usePreferences } from '@/ui/preferences'
import type { Does } from './find'
import { useHere } from './provider'
import { isWriting } from './typing'
import { useEarlyKeys } from './use-early-keys'

const Opener = styled(Button)`margin-left: auto;`
const FindBody = later(() => import('./find-body').then((m) => m.FindBody))

/** Does what is done where one is. */
function useDoing(): (does: Does) => void {
  const { wall } = useHere()
  const { setUnits, setTheme } = usePreferences()
  return (does) => {
    if (does === 'day' || does === 'night') setTheme(does)
    else if (does === 'keep') {
      setKeep(wall, true).catch((error) => console.error(error))
      navigator.storage?.persist?.().catch(() => false)
    } else setUnits(does)
  }
}

/** Find: whatever of the wall one can think of by its name; "/" or Ctrl and K open it. */
export function Find() {
  const go = useGo()
  const doing = useDoing()
  const [open, setOpen] = useState(false)
  const { early, ready } = useEarlyKeys(open, () => setOpen(false))
  useEffect(() => {
    if (open) FindBody.ahead()
    // When the page has long been read it is fetched all the same: the first press finds it there, and so does one without a signal.
    const idle = setTimeout(FindBody.ahead, 6000)
    return () => clearTimeout(idle)
  }, [open])
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const asks = (e.key === 'k' && (e.ctrlKey || e.metaKey)) || (e.key === '/' && !isWriting(document.activeElement))
      if (!asks) return
      e.preventDefault()
      setOpen(true)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <>
      <Opener onPress={() => setOpen(true)} onHoverStart={FindBody.ahead} onFocus={FindBody.ahead} aria-haspopup="dialog">
        Find
      </Opener>
      <Ask title="Find" open={open} onClose={() => setOpen(false)}>
        <FindBody
          early={early}
          onReady={ready}
          onGo={({ href, does }) => {
            setOpen(false)
            if (does) doing(does)
            else if (href.startsWith('/api/')) window.location.assign(href)
            else go(href)
          }}
        />
      </Ask>
    </>
  )
}
