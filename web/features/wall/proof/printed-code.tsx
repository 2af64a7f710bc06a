'use client'

import styled from 'styled-components'
import { CodeBlock } from './code-block'
import { useProof } from './use-proof'

const Kept = styled.div`margin-top: 10px; svg { width: 132px; height: 132px; } break-inside: avoid; @media screen { min-height: 240px; }`

/** The code of the record on paper; where the house does not answer, that there is none. */
export function PrintedCode({ wall }: { wall: string }) {
  const { proof } = useProof(wall, true)
  return (
    <Kept>
      {proof?.code ? (
        <CodeBlock code={proof.code} />
      ) : (
        <p>{proof ? 'This record bears no code: see Record.' : 'Without a code: the house did not answer when this was printed.'}</p>
      )}
    </Kept>
  )
}
