'use client'

import { type LadderStep, LEVEL_NAMES, ladderOf, milder, type RuleBook, type Rung, rungOf, STEP_NAMES } from '@stone-tally/core'
import { Quiet, Row } from '@/ui/controls'
import { Table } from '@/ui/table'
import type { Asked } from './dialogs'
import { setsRule } from './edit'
import type { RuleDraft } from './use-rule-draft'

const MARKS: Readonly<Record<LadderStep, string>> = { crew: '●', ask: '?', beyond: '?▲', engineer: '▲' }
/** Narrower than the columns of other tables, so that all of them stand on a phone. */
const Step = ({ of }: { of: LadderStep }) => (
  <span style={{ display: 'block', minWidth: 76, whiteSpace: 'normal' }}>
    <span aria-hidden>{MARKS[of]} </span>
    {STEP_NAMES[of]}
  </span>
)
/** Is there anything above what ships? */
const mayBeStricter = (r: Rung) => milder(rungOf(r.fact).low, 'engineer') || milder(rungOf(r.fact).higher, 'engineer')

/** Whose wall each fact makes it, low and higher, with the reason; the strictest fact counts. Company and site make it stricter. */
export function LadderPart({ book, draft, low, may, ask }: { book: RuleBook; draft: RuleDraft; low: string; may: boolean; ask(a: Asked): void }) {
  const setBy = (r: Rung) => book.set.find((s) => s.rule === `ladder.${r.fact}`)
  return (
    <section aria-labelledby="ladder">
      <h2 id="ladder">Whose wall it is</h2>
      <p>
        What each fact makes of a wall that shows up to {low}, and of a higher one. The strictest fact counts; what nobody said counts as the worst of
        its kind. Company and site may make a line stricter, never milder.
      </p>
      <Table<Rung>
        label="Whose wall each fact makes it"
        rows={ladderOf({ book })}
        id={(r) => r.fact}
        columns={[
          {
            head: 'Fact',
            is: 'wrap',
            cell: (r) => {
              const by = setBy(r)
              return (
                <>
                  <strong>{r.title}</strong>
                  <div style={{ color: 'var(--soft)', fontSize: 15 }}>
                    {r.reason}
                    {by ? ` ${LEVEL_NAMES[by.level]}${by.by ? `, ${by.by}` : ''}: ${by.why}` : ''}
                  </div>
                  {may ? (
                    <Row style={{ marginTop: 4 }}>
                      {mayBeStricter(r) ? (
                        <Quiet aria-label={`Make stricter: ${r.title.toLowerCase()}`} onPress={() => ask({ what: 'ladder', id: r.fact })}>
                          Stricter
                        </Quiet>
                      ) : null}
                      {setsRule(draft.rules, `ladder.${r.fact}`) ? (
                        <Quiet aria-label={`Back, as above: ${r.title.toLowerCase()}`} onPress={() => draft.drop(`ladder.${r.fact}`)}>
                          Back
                        </Quiet>
                      ) : null}
                    </Row>
                  ) : null}
                </>
              )
            },
          },
          { head: `To ${low}`, cell: (r) => <Step of={r.low} /> },
          { head: 'Higher', cell: (r) => <Step of={r.higher} /> },
        ]}
      />
    </section>
  )
}
