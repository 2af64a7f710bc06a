'use client'

import { useEffect } from 'react'
import { sendAround } from '@/device/courier'

/** On every page: what waits for a wall that is not open goes too. */
export function Courier() {
  useEffect(() => sendAround(), [])
  return null
}
