'use client'

import { useEffect, useState } from 'react'
import { Button, Row } from '@/ui/controls'

/** What the browser hands over when the application can be installed. */
interface Offer extends Event {
  prompt(): Promise<unknown>
}

/** Installing, where the browser offers it; where it does not, what to do there. */
export function Install() {
  const [offer, setOffer] = useState<Offer>()
  const [installed, setInstalled] = useState(true)
  useEffect(() => {
    setInstalled(window.matchMedia('(display-mode: standalone)').matches)
    const take = (e: Event) => {
      e.preventDefault()
      setOffer(e as Offer)
    }
    window.addEventListener('beforeinstallprompt', take)
    return () => window.removeEventListener('beforeinstallprompt', take)
  }, [])
  if (installed) return null
  return (
    <section aria-label="Install">
      <h2>Install</h2>
      <p>Installed, it opens from the home screen, without a signal too, and the browser is less likely to take away what it keeps.</p>
      {offer ? (
        <Row>
          <Button onPress={() => offer.prompt()}>Install Stone Tally</Button>
        </Row>
      ) : (
        <p>This browser installs it from its own menu: “Add to home screen” or “Install”.</p>
      )}
    </section>
  )
}
