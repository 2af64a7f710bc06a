'use client'

import { type KeyboardEvent, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react'
import { Autocomplete, Input, Label, Menu, MenuItem, SearchField } from 'react-aria-components'
import styled from 'styled-components'
import { usePreferences } from '@/ui/preferences'
import { type Found, find } from './find'
import { useFeed, useHere } from './provider'

const Body = styled.div`
  display: grid; gap: 8px;
  input { width: 100%; min-height: 56px; font-size: 20px; padding: 0 14px; border: 2px solid var(--ink); background: var(--ground); color: var(--ink); }
  input::-webkit-search-cancel-button { display: none; }
  [data-rac]:has(> label) { display: grid; gap: 8px; } label { font-size: 15px; color: var(--soft); }
  [role='menu'] { display: grid; max-height: 50vh; overflow: auto; outline: none; }
  [role='menuitem'] { display: flex; justify-content: space-between; gap: 16px; align-items: center; min-height: 48px; padding: 0 12px; border-top: 1px solid var(--line); cursor: pointer; outline: none; }
  [role='menuitem'][data-focused] { background: var(--faint); box-shadow: inset 4px 0 0 var(--now); }
  .about { color: var(--soft); font-size: 15px; text-align: right; }
`

/** Puts a text into a field as if it had been typed there just now: whoever follows the typing takes it for such. */
function typeInto(field: HTMLInputElement, text: string) {
  const typed = { bubbles: true, inputType: 'insertText', data: text }
  field.dispatchEvent(new InputEvent('beforeinput', typed))
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')?.set?.call(field, text)
  field.dispatchEvent(new InputEvent('input', typed))
}

/** What is typed, and what it may mean; the record is followed only while it is open. */
export function FindBody({ early, onReady, onGo }: { early(): string; onReady(): void; onGo(found: Found): void }) {
  const { wall } = useHere()
  const { state } = useFeed()
  const { units } = usePreferences()
  const [text, setText] = useState('')
  const field = useRef<HTMLInputElement>(null)
  /** The first of what a text may mean. */
  const first = (typed: string) => {
    const [to] = find(state, wall, typed, units)
    if (to) onGo(to)
  }
  const goFirst = useRef(first)
  goFirst.current = first
  useEffect(() => {
    onReady()
    const [typed, ...entered] = early().split('\n')
    if (!field.current || !typed) return
    typeInto(field.current, typed)
    if (entered.length) goFirst.current(typed)
  }, [early, onReady])
  const asked = useDeferredValue(text)
  const found = useMemo(() => find(state, wall, asked, units), [state, wall, asked, units])
  /**
   * Enter takes what the arrows stand on, otherwise the first. It is decided here, as the key goes down: a list that is drawn anew between the
   * key down and the key up has no item any more that could take it.
   */
  const onKeyDownCapture = (e: KeyboardEvent<HTMLElement>) => {
    if (e.key !== 'Enter' || e.target !== field.current || e.nativeEvent.isComposing) return
    e.preventDefault()
    e.stopPropagation()
    const at = field.current?.getAttribute('aria-activedescendant')
    const chosen = at ? found.find((f) => f.id === document.getElementById(at)?.dataset.key) : undefined
    if (chosen) onGo(chosen)
    else first(field.current?.value ?? '')
  }
  return (
    <Body onKeyDownCapture={onKeyDownCapture}>
      <Autocomplete inputValue={text} onInputChange={setText}>
        <SearchField autoFocus>
          <Label>A place, a course (3 B), a station, a step of the work, an entry (no. 12), something to do</Label>
          <Input ref={field} />
        </SearchField>
        <Menu
          aria-label="Found"
          items={found}
          onAction={(id) => {
            const to = found.find((f) => f.id === id)
            if (to) onGo(to)
          }}
          renderEmptyState={() => <p>Nothing of this wall is called “{asked.trim()}”. Type less, or a course such as 3 B.</p>}
        >
          {(f) => (
            <MenuItem id={f.id} textValue={f.title}>
              <span>{f.title}</span>
              <span className="about">{f.about}</span>
            </MenuItem>
          )}
        </Menu>
      </Autocomplete>
    </Body>
  )
}
