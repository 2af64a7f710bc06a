import type { Vertex } from '../../geometry'

/** An element with two ends, to be joined into a line. */
export interface Part {
  readonly layer: string
  readonly from: Vertex
  readonly to: Vertex
  readonly bulge: number
}
export interface Chain {
  readonly layer: string
  readonly vertices: Vertex[]
  readonly closed: boolean
}
/** A place where more than two ends meet: which way the wall goes there is for a person to say. */
export interface Branch {
  readonly layer: string
  readonly easting: number
  readonly northing: number
  readonly count: number
}

/**
 * Parts joined end to end within their layer, whichever way each was drawn; a part drawn twice counts once, and at a branch every
 * line ends. Time grows with the number of parts.
 *
 * @param within - ends closer than this are one point, in the drawing's unit
 */
export function joined(parts: readonly Part[], within: number): { chains: Chain[]; doubled: number; branches: Branch[] } {
  // Every end becomes a node; ends within reach of each other are one. Cells as wide as the reach: only neighbours are looked at.
  const nodes: { layer: string; at: Vertex; parts: number[] }[] = []
  const cells = new Map<string, number[]>()
  const nodeOf = (layer: string, v: Vertex): number => {
    const [cx, cy] = [Math.floor(v.easting / within), Math.floor(v.northing / within)]
    for (let i = -1; i <= 1; i++) {
      for (let j = -1; j <= 1; j++) {
        for (const k of cells.get(`${layer}|${cx + i}|${cy + j}`) ?? []) {
          const { at } = nodes[k] as (typeof nodes)[number]
          if (Math.hypot(at.easting - v.easting, at.northing - v.northing) <= within) return k
        }
      }
    }
    const k = nodes.push({ layer, at: v, parts: [] }) - 1
    const key = `${layer}|${cx}|${cy}`
    const list = cells.get(key)
    if (list) list.push(k)
    else cells.set(key, [k])
    return k
  }
  const kept: (Part & { a: number; b: number })[] = []
  const seen = new Set<string>()
  let doubled = 0
  for (const p of parts) {
    const [a, b] = [nodeOf(p.layer, p.from), nodeOf(p.layer, p.to)]
    const key = a < b ? `${a}|${b}|${p.bulge.toFixed(6)}` : `${b}|${a}|${(-p.bulge).toFixed(6)}`
    if (seen.has(key)) {
      doubled++
      continue
    }
    seen.add(key)
    const i = kept.push({ ...p, a, b }) - 1
    nodes[a]?.parts.push(i)
    if (a !== b) nodes[b]?.parts.push(i)
  }
  const branches = nodes.flatMap((n): Branch[] =>
    n.parts.length > 2 ? [{ layer: n.layer, easting: n.at.easting, northing: n.at.northing, count: n.parts.length }] : [],
  )
  const left = new Set(kept.keys())
  const chains: Chain[] = []
  for (const first of kept.keys()) {
    if (!left.delete(first)) continue
    const own = kept[first] as (typeof kept)[number]
    const back: Part[] = []
    const front: Part[] = [own]
    let [start, end] = [own.a, own.b]
    const walk = (node: number, atEnd: boolean): number => {
      let here = node
      for (;;) {
        const n = nodes[here]
        // The very node where the walk began closes the ring; a branch ends it.
        if (n?.parts.length !== 2) return here
        const i = n.parts.find((k) => left.has(k))
        if (i === undefined) return here
        left.delete(i)
        const next = kept[i] as (typeof kept)[number]
        const forward = atEnd ? next.a === here : next.b === here
        const turned: Part = forward ? next : { ...next, from: next.to, to: next.from, bulge: -next.bulge }
        if (atEnd) front.push(turned)
        else back.push(turned)
        here = next.a === here ? next.b : next.a
      }
    }
    end = walk(end, true)
    if (end !== start) start = walk(start, false)
    const chain = [...back.reverse(), ...front]
    const closed = chain.length > 1 && start === end
    const vertices: Vertex[] = chain.map((p) => ({ ...p.from, bulge: p.bulge }))
    if (!closed) vertices.push({ ...(chain[chain.length - 1] as Part).to, bulge: 0 })
    chains.push({ layer: own.layer, vertices, closed })
  }
  return { chains, doubled, branches }
}
