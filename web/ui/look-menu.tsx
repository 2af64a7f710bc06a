'use client'

import { UNIT_SYSTEMS, type UnitSystem } from '@stone-tally/core'
import { Button, Header, Menu, MenuItem, MenuSection, MenuTrigger, Popover } from 'react-aria-components'
import styled from 'styled-components'
import { type Theme, usePreferences } from './preferences'

const UNIT_NAMES: Readonly<Record<UnitSystem, { long: string; short: string }>> = {
  metric: { long: 'Metres', short: 'm' },
  imperial: { long: 'Feet and inches', short: 'ft-in' },
  'decimal-feet': { long: 'Feet and hundredths', short: 'ft.00' },
}
const THEMES: Readonly<Record<Theme, { long: string; short: string }>> = {
  day: { long: 'Day: dark on light, for the sun', short: 'Day' },
  night: { long: 'Night: light on dark, for the cab', short: 'Night' },
}

const Flip = styled(Button)`
  min-width: 48px; min-height: 48px; padding: 0 10px; background: none; border: 0; color: var(--ink); font: 600 15px/1 'Archivo Variable', sans-serif; cursor: pointer; text-decoration: underline dotted; text-underline-offset: 4px; white-space: nowrap;
`
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

/** How this device shows things: a menu that says what each choice is. */
export function LookMenu() {
  const { units, theme, setUnits, setTheme } = usePreferences()
  return (
    <MenuTrigger>
      <Flip aria-label={`Units of measure and theme: ${UNIT_NAMES[units].long}, ${THEMES[theme].short}`}>
        {UNIT_NAMES[units].short} · {THEMES[theme].short}
      </Flip>
      <Sheet placement="bottom end">
        <Menu aria-label="Units of measure and theme">
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
    </MenuTrigger>
  )
}
