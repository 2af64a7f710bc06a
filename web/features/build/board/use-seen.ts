'use client'

import { useEffect, useState } from 'react'
import { note, noted } from '@/device/db'
import { send } from '@/device/send'

/**
 * Something a person is shown once and for all. The device notes that it was seen before it goes from the screen, so that a page
 * loaded anew at that moment, or no signal, does not bring it back; the house is told until it has heard.
 *
 * @param house does the house know that it was seen?
 * @returns `show` is undefined until the device has been asked
 * @example const walk = useSeen(me.id, 'walk', walked)
 */
export function useSeen(person: string, what: 'walk', house: boolean): { show: boolean | undefined; end: () => Promise<void> } {
  const key = `seen:${person}:${what}`
  const [show, setShow] = useState<boolean | undefined>(house ? false : undefined)
  useEffect(() => {
    let gone = false
    if (house) return
    noted<true>(key).then((here) => {
      if (gone) return
      setShow(!here)
      if (here) void send('POST', '/api/seen', { what })
    })
    return () => {
      gone = true
    }
  }, [key, what, house])
  return {
    show,
    end: async () => {
      // A device that keeps nothing shows it again, which harms nobody.
      await note(key, true).catch(() => undefined)
      setShow(false)
      await send('POST', '/api/seen', { what })
    },
  }
}
