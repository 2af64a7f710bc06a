'use client'

import { createContext, useContext } from 'react'

/** The number by which a style of this page is told from anybody else's. */
export const NonceContext = createContext<string | undefined>(undefined)
export const useNonce = () => useContext(NonceContext)
