'use client'

import { Fragment } from 'react'
import styled from 'styled-components'
import { Ask } from '@/ui/controls'

const Keys = styled.dl`display: grid; grid-template-columns: max-content 1fr; gap: 10px 18px; margin: 0; dt { font-weight: 650; } dd { margin: 0; }`
const KEYS = [
  ['0–9', 'type the current reading'],
  ['Enter', 'record the reading'],
  ['n', 'go to the next step'],
  ['[ and ]', 'step before and after'],
  ['← and →', 'move the section along the wall'],
  ['1 … with Alt', 'choose a section'],
  ['/', 'find a place, a course, a station, a step'],
  ['?', 'this list'],
] as const

/** What the keys of the Board do. */
export const Shortcuts = ({ open, onClose }: { open: boolean; onClose(): void }) => (
  <Ask title="Shortcuts" open={open} onClose={onClose}>
    <Keys>
      {KEYS.map(([k, what]) => (
        <Fragment key={k}>
          <dt>{k}</dt>
          <dd>{what}</dd>
        </Fragment>
      ))}
    </Keys>
  </Ask>
)
