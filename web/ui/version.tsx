'use client'

import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { settleSignOut } from '@/device/owed'
import { Button } from './controls'

const Line = styled.div`
  display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: center; padding: 8px 20px; background: var(--panel); border-bottom: 1px solid var(--line);
  @media print { display: none; }
`
const LOOK = 15_000

/** Is anything half typed on this page, in a field or kept from before? */
function halfTyped(): boolean {
  const on = document.activeElement
  if ((on instanceof HTMLInputElement || on instanceof HTMLTextAreaElement) && on.value !== '') return true
  try {
    for (let i = 0; i < window.sessionStorage.length; i++) if (window.sessionStorage.key(i)?.startsWith('typed|')) return true
  } catch {
    // nothing is kept, so nothing is lost
  }
  return false
}

/** The application on this device: kept for when nobody answers, and renewed only when nothing is half typed. */
export function Version() {
  const [waiting, setWaiting] = useState<ServiceWorker>()
  useEffect(() => {
    const settle = () => settleSignOut().catch(() => undefined)
    settle()
    window.addEventListener('online', settle)
    return () => window.removeEventListener('online', settle)
  }, [])
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return
    let over = false
    let had = navigator.serviceWorker.controller !== null
    const changed = () => {
      // The first one takes the page as it is; a later one brings other scripts, and the page starts with them.
      if (had) window.location.reload()
      had = true
    }
    navigator.serviceWorker.addEventListener('controllerchange', changed)
    navigator.serviceWorker
      .register('/sw.js')
      .then((registration) => {
        if (over) return
        const look = () => {
          if (registration.waiting && navigator.serviceWorker.controller) setWaiting(registration.waiting)
        }
        look()
        registration.addEventListener('updatefound', () => registration.installing?.addEventListener('statechange', look))
      })
      .catch(() => undefined)
    return () => {
      over = true
      navigator.serviceWorker.removeEventListener('controllerchange', changed)
    }
  }, [])
  useEffect(() => {
    if (!waiting) return
    const renew = () => {
      if (!halfTyped()) waiting.postMessage({ type: 'SKIP_WAITING' })
    }
    renew()
    const again = setInterval(renew, LOOK)
    return () => clearInterval(again)
  }, [waiting])
  if (!waiting) return null
  return (
    <Line role="status">
      A new version of the application is here. It comes as soon as nothing is half typed.
      <Button onPress={() => waiting.postMessage({ type: 'SKIP_WAITING' })}>Take it now</Button>
    </Line>
  )
}
