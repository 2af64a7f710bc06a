'use client'

import { type CSSProperties, type ReactNode, useId } from 'react'
import { Button as AriaButton, Checkbox as AriaCheckbox, Input, Label, Radio, RadioGroup, TextArea, TextField } from 'react-aria-components'
import styled, { css } from 'styled-components'
import { later } from './later'
import { Link } from './link'
import { Said, useSay } from './preferences'

const press = css`
  min-height: 48px; padding: 0 18px; border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink);
  font: 600 16px/1.1 'Archivo Variable', sans-serif; cursor: pointer; display: inline-flex; align-items: center; justify-content: center; gap: 8px; text-decoration: none;
  &[data-pressed], &:active { transform: translateY(1px); }
  &[data-disabled], &:disabled { background: none; color: var(--soft); border-style: dashed; border-color: var(--soft); cursor: default; }
`
/** A button of the ordinary kind; at least 48 px. */
export const Button = styled(AriaButton)`${press}`
/** The one thing to press now. */
export const NowButton = styled(AriaButton)`${press} background: var(--now); border-color: var(--now); color: var(--on-now);
  &[data-disabled], &:disabled { background: none; color: var(--soft); border-color: var(--soft); }
`
const Away = styled.a`${press}`
const Within = styled(Link)`${press}`
/** A link of the ordinary kind; what the application shows is gone to without leaving it, a file is fetched. */
export function LinkButton({ href, download, children }: { href: string; download?: boolean; children: ReactNode }) {
  return href.startsWith('/api/') || download ? (
    <Away href={href} download={download}>
      {children}
    </Away>
  ) : (
    <Within href={href} prefetch={false}>
      {children}
    </Within>
  )
}
/** A quiet button inside text and tables. */
export const Quiet = styled(AriaButton)`
  min-height: 40px; padding: 0 10px; background: none; border: 1px solid var(--line); border-radius: 4px; color: var(--ink); font: 500 15px/1 'Archivo Variable', sans-serif; cursor: pointer;
  &[data-disabled] { opacity: .45; }
  @media (pointer: coarse), (max-width: 640px) { min-height: 48px; min-width: 48px; }
`

const box = css`
  width: 100%; min-height: 48px; padding: 8px 12px; border: 2px solid var(--ink); border-radius: 4px; background: var(--panel); color: var(--ink);
  font: 500 17px/1.3 'Archivo Variable', sans-serif; font-variant-numeric: tabular-nums;
  &[data-invalid] { border-style: dashed; border-width: 3px; }
`
export const Box = styled(Input)`${box}`
const Area = styled(TextArea)`${box} min-height: 72px; resize: vertical;`
export const Caption = styled(Label)`display: block; font: 500 15px/1.2 'Archivo Variable', sans-serif; color: var(--soft); margin-bottom: 4px;`
const Wrong = styled.span`display: block; margin-top: 4px; font-weight: 600; &::before { content: '▲ '; }`

interface FieldProps {
  label: string
  value: string
  onChange(value: string): void
  error?: string | undefined
  hint?: string | undefined
  /** What stands while it is empty, and where that comes from. */
  stands?: { readonly text: string; readonly from: string } | undefined
  type?: string
  name?: string
  long?: boolean
  inputMode?: 'decimal' | 'numeric' | 'text'
  autoComplete?: string
  autoFocus?: boolean
  onFocusChange?(focused: boolean): void
}
/** A labelled text field with its error below it. */
export function Field({
  label,
  value,
  onChange,
  error,
  hint,
  type = 'text',
  long,
  name,
  inputMode,
  autoComplete,
  autoFocus,
  onFocusChange,
  stands,
}: FieldProps) {
  const id = useId()
  const said = useSay()
  const under = stands && value === '' ? `${stands.text}: ${stands.from}; another can be typed` : hint
  return (
    <TextField
      value={value}
      onChange={onChange}
      isInvalid={!!error}
      validationBehavior="aria"
      type={type}
      {...(name ? { name } : {})}
      {...(autoComplete ? { autoComplete } : {})}
      {...(onFocusChange ? { onFocusChange } : {})}
      {...(error || under ? { 'aria-describedby': id } : {})}
    >
      <Caption>{said(label)}</Caption>
      {long ? (
        <Area />
      ) : (
        <Box {...(stands ? { placeholder: stands.text } : {})} {...(inputMode ? { inputMode } : {})} {...(autoFocus ? { autoFocus } : {})} />
      )}
      {error ? <Wrong id={id}>{said(error)}</Wrong> : under ? <Small id={id}>{said(under)}</Small> : null}
    </TextField>
  )
}
export const Small = styled.span`display: block; font-size: 14px; color: var(--soft); margin-top: 3px;`

const Tick = styled(AriaCheckbox)`
  display: flex; gap: 12px; align-items: center; min-height: 48px; cursor: pointer; padding: 4px 0;
  .box { flex: none; width: 30px; height: 30px; border: 2px solid var(--ink); border-radius: 3px; display: grid; place-items: center; font: 700 20px/1 sans-serif; background: var(--panel); }
  &[data-selected] .box { background: var(--ink); color: var(--ground); }
`
/** A large tick box. */
export function Check({ children, checked, onChange }: { children: ReactNode; checked: boolean; onChange(v: boolean): void }) {
  return (
    <Tick isSelected={checked} onChange={onChange}>
      <span className="box" aria-hidden>
        {checked ? '✓' : ''}
      </span>
      <span>
        <Said>{children}</Said>
      </span>
    </Tick>
  )
}

const Group = styled(RadioGroup)`
  display: block;
  .row { display: flex; flex-wrap: wrap; gap: 0; }
  .one { flex: none; max-width: 100%; min-height: 48px; min-width: 48px; justify-content: center; padding: 0 14px; border: 2px solid var(--ink); margin: 0 -2px -2px 0; display: inline-flex; align-items: center; cursor: pointer; font-weight: 550; background: var(--panel); }
  .one[data-selected] { background: var(--ink); color: var(--ground); }
`
/** One of a few, side by side. */
export function Choice<const T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel,
}: {
  label: string
  value: NoInfer<T>
  options: readonly (readonly [T, string])[]
  onChange(v: NoInfer<T>): void
  hideLabel?: boolean
}) {
  const said = useSay()
  return (
    <Group value={value} onChange={(v) => onChange(v as T)} orientation="horizontal" {...(hideLabel ? { 'aria-label': label } : {})}>
      {hideLabel ? null : <Caption>{label}</Caption>}
      <div className="row">
        {options.map(([id, name]) => (
          <Radio key={id} value={id} className="one">
            {said(name)}
          </Radio>
        ))}
      </div>
    </Group>
  )
}

const Sheet = later(() => import('./sheet').then((m) => m.Sheet))
/** A dialog over the page; Escape closes it. */
export const Ask = ({ open, ...rest }: { title: string; open: boolean; onClose(): void; children: ReactNode }) => (open ? <Sheet {...rest} /> : null)

/** What stops the work: hazard amber, ink, a shape. */
export const Stop = styled.div`--ink: #14181b; --soft: #33383b; --panel: #fff8e1; --line: #14181b; --now: #14181b; --on-now: #fff; background: var(--stop); color: var(--on-stop); padding: 12px 14px; border-left: 8px solid var(--on-stop); display: grid; gap: 8px;`
/** What to mind: once, calmly. */
const Minded = styled.p`border-left: 6px solid var(--stop); padding: 4px 0 4px 12px; font-size: 15px; line-height: 1.35;`
export const Caution = ({ children, style, as }: { children: ReactNode; style?: CSSProperties; as?: 'div' }) => (
  <Minded {...(style ? { style } : {})} {...(as ? { as } : {})}>
    <Said>{children}</Said>
  </Minded>
)
export const Row = styled.div`display: flex; flex-wrap: wrap; gap: 10px; align-items: end;`
export const Stack = styled.div`display: grid; gap: 14px; grid-template-columns: minmax(0, 1fr);`
/** The stack of a card that records: on a phone its record button stays in sight. */
export const WorkStack = styled(Stack)`@media (max-width: 640px) { display: flex; flex-direction: column; > * { min-width: 0; } }`
/** What records stands at the end of the card; on a phone it never leaves the screen. */
export const RecordRow = styled(
  Row,
)`@media (max-width: 640px) { position: sticky; bottom: 0; z-index: 3; padding: 8px 0; margin: -8px 0; background: var(--panel); }`
export const Condensed = styled.span`font-family: 'Barlow Condensed', sans-serif; font-weight: 500; letter-spacing: .02em;`
/** The one main part of a page; the skip link leads to it. */
export const MAIN = { id: 'main', tabIndex: -1 } as const
export const Page = styled.main.attrs(
  MAIN,
)`max-width: 1180px; margin: 0 auto; padding: 20px; display: grid; gap: 20px; grid-template-columns: minmax(0, 1fr);`

/** A table that is wider than a phone scrolls by itself; give it a label, a role of region and a tab stop. */
export const Wide = styled.div`overflow-x: auto; position: relative; td, th { white-space: nowrap; } td.n, th.n { text-align: right; } td.wrap, th.wrap { white-space: normal; min-width: 130px; } th.n.wrap { min-width: 96px; } tr[data-on='true'] td { background: var(--faint); }`

/** Problems from the core or the server, each with its field. */
export function Problems({ list }: { list: readonly { field: string; message: string }[] }) {
  const said = useSay()
  if (list.length === 0) return null
  return (
    <Stop role="alert">
      {list.slice(0, 12).map((p) => (
        <div key={`${p.field}${p.message}`}>
          <strong>⬣ {p.field && p.field !== 'where' ? `${said(p.field.replace(/^system\.data\./, ''))}: ` : ''}</strong>
          {said(p.message)}
        </div>
      ))}
    </Stop>
  )
}
