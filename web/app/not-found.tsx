import Link from 'next/link'

export default function NotFound() {
  return (
    <main style={{ padding: 24 }}>
      <h1>There is nothing here</h1>
      <p>
        The wall may belong to another company, or the address is wrong. <Link href="/">Back to the Yard</Link>
      </p>
    </main>
  )
}
