'use client'

import { useEffect, useState } from 'react'

const MINUTE = 60_000
const HOUR = 60 * MINUTE
const DAY = 24 * HOUR
const many = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`

/** How long ago, in the words people use. @example agoWords(Date.now() - 7_200_000) // '2 hours ago' */
export function agoWords(at: number, now = Date.now()): string {
  const ms = now - at
  if (ms < 2 * MINUTE) return 'just now'
  if (ms < 2 * HOUR) return `${many(Math.round(ms / MINUTE), 'minute')} ago`
  if (ms < 2 * DAY) return `${many(Math.round(ms / HOUR), 'hour')} ago`
  return `${many(Math.round(ms / DAY), 'day')} ago`
}
/** Known once the page runs on the device. */
export function Ago({ at }: { at: number }) {
  const [words, setWords] = useState('')
  useEffect(() => {
    const say = () => setWords(agoWords(at))
    say()
    const again = setInterval(say, MINUTE)
    return () => clearInterval(again)
  }, [at])
  return <>{words}</>
}
