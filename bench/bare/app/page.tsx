'use client'

import { useEffect, useState } from 'react'
import { Button } from 'react-aria-components'
import styled from 'styled-components'

const Big = styled(Button)`min-height: 48px; padding: 0 18px;`

/** One button. */
export default function Page() {
  const [count, setCount] = useState(0)
  useEffect(() => {
    document.documentElement.dataset.ready = ''
  }, [])
  return (
    <main>
      <h1>Bare</h1>
      <Big onPress={() => setCount(count + 1)}>Pressed {count} times</Big>
    </main>
  )
}
