import { alignmentOf, type EarlierPlan as Plan, systemOf, type Vertex } from '@stone-tally/core'

/**
 * A wall 40 courses high of so many stretches of 100 m, a kilometre by itself: straights, bends both ways, corners, grades that rise and
 * fall.
 */
export function longWall(hundreds = 10): Plan {
  const unit = systemOf('hollow-core')?.units[0]
  if (!unit) throw new Error('no unit')
  const vertices: Vertex[] = [{ easting: 0, northing: 0 }]
  let angle = 0
  const go = (length: number, turn: number) => {
    const last = vertices[vertices.length - 1] as Vertex
    // An arc that turns by `turn` from tangent to tangent has its chord at half of it.
    const chord = turn === 0 ? length : (2 * Math.sin(Math.abs(turn) / 2) * length) / Math.abs(turn)
    vertices[vertices.length - 1] = { ...last, bulge: Math.tan(turn / 4) }
    vertices.push({ easting: last.easting + chord * Math.cos(angle + turn / 2), northing: last.northing + chord * Math.sin(angle + turn / 2) })
    angle += turn
  }
  for (let i = 0; i < hundreds; i++) {
    go(38, 0)
    go(14, i % 2 === 0 ? 0.6 : -0.6)
    go(30, 0)
    angle += i % 2 === 0 ? -0.3 : 0.3
    go(18, 0)
  }
  const line = alignmentOf(vertices, false)
  if (!line.ok) throw new Error(JSON.stringify(line.problems))
  const length = line.value.length
  const points = 8 * hundreds
  const grades = Array.from({ length: points + 1 }, (_, i) => {
    const share = (i / points) * (hundreds / 10)
    // Up over one kilometre and down over the next.
    const toe = 20 + 3 * Math.sin(share * 9) + (share % 2 > 1 ? 2 - (share % 2) : share % 2) * 4
    return { station: i === points ? length : (length * i) / points, toe, top: toe + 7.2 + 0.8 * Math.cos(share * 31) }
  })
  return {
    name: 'Long wall',
    site: 'Bench',
    engineer: 'bench',
    system: 'hollow-core',
    unit,
    length,
    alignment: { vertices: vertices.map((v) => ({ easting: v.easting, northing: v.northing, bulge: v.bulge ?? 0 })), closed: false },
    grades,
    benchmark: { name: 'BM', elevation: 20 },
    embedment: [{ kind: 'fixed', depth: 0.4 }],
    pad: { material: 'dense-graded', thickness: 0.2, width: 0.6, maxLift: 0.1, looseFactor: 1.25, minRun: 1.35 },
    excavation: { behind: 6, slope: 0.5 },
    stone: { width: 0.3 },
    drain: { diameter: 0.1, fall: 0.01, outlets: [{ station: 0, invert: 18 }], maxOutletSpacing: 15 },
    grid: [],
    sections: Array.from({ length: 2 * hundreds }, (_, i) => ({
      id: `S${i + 1}`,
      from: (length * i) / (2 * hundreds),
      to: (length * (i + 1)) / (2 * hundreds),
    })),
  }
}
