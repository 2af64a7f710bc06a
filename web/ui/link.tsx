'use client'

import NextLink from 'next/link'
import { useRouter } from 'next/navigation'
import { type ComponentProps, createContext, type MouseEvent, useCallback, useContext } from 'react'

/** Goes to an address without asking anybody; false where it cannot, and the page has to be fetched. */
export type Going = (href: string) => boolean
const Context = createContext<Going | undefined>(undefined)
/** Who is within a wall goes from place to place by what the device has. */
export const GoingProvider = Context.Provider

/** A link inside the application. */
export function Link({ href, onClick, ...rest }: Omit<ComponentProps<typeof NextLink>, 'href'> & { href: string }) {
  const going = useContext(Context)
  const click = (e: MouseEvent<HTMLAnchorElement>) => {
    onClick?.(e)
    if (e.defaultPrevented || e.button !== 0 || e.metaKey || e.ctrlKey || e.shiftKey || e.altKey) return
    if (going?.(href)) e.preventDefault()
  }
  return <NextLink {...rest} href={href} {...(going ? { prefetch: false } : {})} onClick={click} />
}

/** Goes to an address. @example const go = useGo(); go('/walls/w1/water') */
export function useGo(): (href: string) => void {
  const going = useContext(Context)
  const router = useRouter()
  return useCallback(
    (href) => {
      if (!going?.(href)) router.push(href)
    },
    [going, router],
  )
}
