'use client'

import styled from 'styled-components'
import { Bar } from '@/ui/bar'
import { Button, Caution, Condensed, Field, NowButton, Problems, Row, Stack } from '@/ui/controls'
import { momentWords } from '@/ui/day-words'
import { useOutside, useOutsidePhoto } from './use-outside'

const Sheet = styled.main`
  max-width: 760px; margin: 0 auto; padding: 18px 16px 60px; display: grid; gap: 18px;
  ol { margin: 0; padding: 0; list-style: none; border-top: 1px solid var(--line); }
  li { display: grid; grid-template-columns: 64px 1fr; gap: 4px 12px; padding: 8px 0; border-bottom: 1px solid var(--line); font-size: 16px; }
  li small { grid-column: 2; color: var(--soft); font-size: 14px; }
  .photos { display: grid; grid-template-columns: repeat(auto-fill, minmax(200px, 1fr)); gap: 10px; }
`
const Picture = styled.img`width: 100%; aspect-ratio: 4 / 3; object-fit: cover; display: block;`

function Photo({ token, file, caption }: { token: string; file: string; caption: string }) {
  const url = useOutsidePhoto(token, file)
  return (
    <a href={url} target="_blank" rel="noreferrer">
      {url ? <Picture src={url} alt={caption || 'Photo of the work'} /> : 'Photo is coming …'}
    </a>
  )
}

/** What somebody from outside sees of a link that was sent to them: what is asked, what was recorded, and their decision. */
export function Outside() {
  const { token, shown: s, over, typed, set, wrong, elsewhere, missing, busy, done, decide } = useOutside()
  return (
    <>
      <Bar />
      <Sheet>
        <h1>{s ? `Please look: ${s.step}` : 'Link'}</h1>
        {over ? <p role="alert">{over.replace(/^./, (c) => c.toUpperCase())}.</p> : null}
        {done ? (
          <p role="status">
            <strong>
              {done === 'released' ? '✓ Released' : '⬣ Rejected'}. It stands in the record of the wall, with your name and licence number. This link
              opens nothing any more.
            </strong>
          </p>
        ) : null}
        {s && !done ? (
          <>
            <Stack>
              <Condensed style={{ fontSize: 19 }}>
                {s.wall} · {s.site} · {s.company}
              </Condensed>
              <div>
                {s.by} asks you, as {s.as.toLowerCase()}, whether the work may go on past {s.point.toLowerCase()}. {s.reason}
              </div>
              <div>
                {s.system}, plan revision {s.revision}. {s.facts.join(' ')}
              </div>
            </Stack>
            {s.open.length > 0 ? <Caution>▲ Out of its limits here, and not closed: {s.open.join('; ')}.</Caution> : null}
            {s.missing.length > 0 ? <Caution>Not complete, so it cannot be released yet. Missing: {s.missing.join('; ')}.</Caution> : null}
            <section aria-labelledby="was-recorded">
              <h2 id="was-recorded">What was recorded here since the last release</h2>
              {s.lines.length === 0 ? <p>Nothing yet.</p> : null}
              <ol>
                {s.lines.map((l) => (
                  <li key={l.seq}>
                    <span>No. {l.seq}</span>
                    <span>
                      {l.out ? '▲ ' : ''}
                      {l.text}
                    </span>
                    <small>
                      {momentWords(l.at)} · {l.by}
                    </small>
                  </li>
                ))}
              </ol>
            </section>
            {s.photos.length > 0 ? (
              <div className="photos">
                {s.photos.map((p) => (
                  <Photo key={p.seq} token={token} file={p.file} caption={p.caption} />
                ))}
              </div>
            ) : null}
            <section aria-labelledby="your-decision">
              <h2 id="your-decision">Your decision</h2>
              <Stack>
                <Row>
                  <div style={{ flex: 1, minWidth: 200 }}>
                    <Field label="Your name" autoComplete="name" value={typed.name} onChange={set('name')} error={wrong('name')} />
                  </div>
                  <div style={{ flex: 1, minWidth: 200 }}>
                    <Field label="Licence or register number" value={typed.licence} onChange={set('licence')} error={wrong('licence')} />
                  </div>
                </Row>
                <Field label="What you saw; it is kept with the decision" value={typed.reason} onChange={set('reason')} error={wrong('reason')} />
                <div>
                  You sign with your name. Nobody checks who you are: “identity not checked” stands beside the decision, with the address the link
                  went to.
                </div>
                <Row>
                  <NowButton isDisabled={busy || missing.length > 0 || s.missing.length > 0} onPress={() => decide('released')}>
                    {missing.length > 0 ? `Release · missing: ${missing.join(', ')}` : 'Release'}
                  </NowButton>
                  <Button isDisabled={busy || missing.length > 0} onPress={() => decide('rejected')}>
                    Reject
                  </Button>
                </Row>
                <Problems list={elsewhere} />
              </Stack>
            </section>
          </>
        ) : null}
      </Sheet>
    </>
  )
}
