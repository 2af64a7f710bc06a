'use client'

import { useEffect, useState } from 'react'

/** Does the page run on the device? What depends on its day or its size is drawn only then. */
export function useHydrated(): boolean {
  const [here, setHere] = useState(false)
  useEffect(() => setHere(true), [])
  return here
}
