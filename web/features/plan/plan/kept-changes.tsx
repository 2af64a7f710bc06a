import { Button, Quiet, Row, Stack } from '@/ui/controls'
import type { KeptDraft } from './kept-draft'

/** What was typed before the page was loaded anew: taken up again, or, where another revision came meanwhile, shown to be typed again. */
export function KeptChanges({
  kept,
  revision,
  said,
  onTake,
  onDrop,
}: {
  kept: KeptDraft
  /** The one in force. */
  revision: number
  /** A field in words. */
  said(field: string): string
  onTake(): void
  onDrop(): void
}) {
  const same = kept.revision === revision
  return (
    <Stack role="group" aria-label="What you had changed">
      {same ? null : (
        <>
          <p>
            ≠ What you had changed was made from revision {kept.revision}; revision {revision} is in force now. Look at what it changed, then type
            again what still holds:
          </p>
          <ul style={{ margin: 0, paddingLeft: 20, maxHeight: 220, overflowY: 'auto' }}>
            {kept.changed.map(([field, text]) => (
              <li key={field}>
                {said(field)}: <strong>{text}</strong>
              </li>
            ))}
          </ul>
        </>
      )}
      <Row style={{ alignItems: 'center' }}>
        {same ? <Button onPress={onTake}>Go on with what you had changed</Button> : null}
        <Quiet onPress={onDrop}>{same ? 'Throw that away' : 'I have what I need of it'}</Quiet>
      </Row>
    </Stack>
  )
}
