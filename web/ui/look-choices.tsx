'use client'

import { UNIT_SYSTEMS } from '@stone-tally/core'
import type { RefObject } from 'react'
import { Header, Menu, MenuItem, MenuSection, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { THEMES, UNIT_NAMES } from './look-names'
import { usePreferences } from './preferences'

const Sheet = styled(Popover)`
  background: var(--ground); color: var(--ink); border: 2px solid var(--ink); min-width: 260px; padding: 6px 0;
  header { padding: 10px 16px 2px; font: 500 15px/1.3 'Barlow Condensed', sans-serif; color: var(--soft); }
  [role^='menuitem'] { display: flex; align-items: center; gap: 10px; min-height: 48px; padding: 0 16px; cursor: pointer; outline: none; font-size: 16px; }
  [role^='menuitem'][data-focused] { background: var(--faint); box-shadow: inset 4px 0 0 var(--now); }
  .mark { width: 1em; } [role='group'] + [role='group'] { border-top: 1px solid var(--line); margin-top: 6px; }
`

interface Choices<T extends string> {
  readonly title: string
  readonly value: T
  readonly of: readonly (readonly [T, string])[]
  onChoose(value: T): void
}

/** One thing of several, each line saying what it is. */
function Choices<T extends string>({ title, value, of, onChoose }: Choices<T>) {
  return (
    <MenuSection selectionMode="single" disallowEmptySelection selectedKeys={[value]} onSelectionChange={(k) => onChoose([...k][0] as T)}>
      <Header>{title}</Header>
      {of.map(([id, name]) => (
        <MenuItem key={id} id={id} textValue={name}>
          <span className="mark" aria-hidden="true">
            {id === value ? '✓' : ''}
          </span>
          {name}
        </MenuItem>
      ))}
    </MenuSection>
  )
}

/** The menu of units of measure and theme, open. */
export function LookChoices({ at, onClose }: { at: RefObject<HTMLElement | null>; onClose(): void }) {
  const { units, theme, setUnits, setTheme } = usePreferences()
  return (
    <Sheet triggerRef={at} isOpen onOpenChange={(open) => !open && onClose()} placement="bottom end">
      <Menu aria-label="Units of measure and theme" autoFocus="first" onClose={onClose}>
        <Choices title="Units of measure" value={units} of={UNIT_SYSTEMS.map((u) => [u, UNIT_NAMES[u].long] as const)} onChoose={setUnits} />
        <Choices title="Theme" value={theme} of={(['day', 'night'] as const).map((t) => [t, THEMES[t].long] as const)} onChoose={setTheme} />
        <MenuSection aria-label="Help">
          <MenuItem id="words" href="/words" textValue="Words of the trade">
            <span className="mark" aria-hidden="true" />
            Words of the trade
          </MenuItem>
        </MenuSection>
      </Menu>
    </Sheet>
  )
}
