/** A point in three dimensions, in a drawing's unit. */
export type Point3 = readonly [x: number, y: number, z: number]

/**
 * Where something drawn lies in the world: the images of its three axes and of its origin. Blocks within blocks, mirrored or tilted
 * planes are one such placing after another.
 */
export interface Placing {
  readonly x: Point3
  readonly y: Point3
  readonly z: Point3
  readonly at: Point3
}
export const WORLD: Placing = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1], at: [0, 0, 0] }

const turn = (p: Placing, [a, b, c]: Point3): Point3 => [
  p.x[0] * a + p.y[0] * b + p.z[0] * c,
  p.x[1] * a + p.y[1] * b + p.z[1] * c,
  p.x[2] * a + p.y[2] * b + p.z[2] * c,
]
/** A point as it is drawn, in the world. */
export function placed(p: Placing, point: Point3): Point3 {
  const [a, b, c] = turn(p, point)
  return [a + p.at[0], b + p.at[1], c + p.at[2]]
}
/** First the inner placing, then the outer one. */
export const within = (outer: Placing, inner: Placing): Placing => ({
  x: turn(outer, inner.x),
  y: turn(outer, inner.y),
  z: turn(outer, inner.z),
  at: placed(outer, inner.at),
})

const cross = (a: Point3, b: Point3): Point3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
const unit = (a: Point3): Point3 => {
  const l = Math.hypot(...a)
  return [a[0] / l, a[1] / l, a[2] / l]
}

/**
 * The plane of an entity by its extrusion direction, as the format's arbitrary axis rule has it.
 *
 * @example planeOf([0, 0, -1]).x // [-1, 0, 0]
 */
export function planeOf(extrusion: Point3): Placing {
  if (Math.hypot(...extrusion) < 1e-12 || (extrusion[0] === 0 && extrusion[1] === 0 && extrusion[2] > 0)) return WORLD
  const z = unit(extrusion)
  const near = Math.abs(z[0]) < 1 / 64 && Math.abs(z[1]) < 1 / 64
  const x = unit(cross(near ? [0, 1, 0] : [0, 0, 1], z))
  return { x, y: unit(cross(z, x)), z, at: [0, 0, 0] }
}

/** A block put somewhere: moved off its base point, scaled, turned (degrees), set down. */
export function insertion(base: Point3, at: Point3, scale: Point3, degrees: number): Placing {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
  const own: Placing = { x: [c * scale[0], s * scale[0], 0], y: [-s * scale[1], c * scale[1], 0], z: [0, 0, scale[2]], at: [0, 0, 0] }
  const [a, b, d] = turn(own, base)
  return { ...own, at: [at[0] - a, at[1] - b, at[2] - d] }
}

/**
 * What becomes of an arc seen from above: 1 as it was, −1 mirrored, undefined where it is no arc any more (scaled unevenly, tilted).
 */
export function arcSense(p: Placing): 1 | -1 | undefined {
  const [ax, ay, bx, by] = [p.x[0], p.x[1], p.y[0], p.y[1]]
  const [la, lb] = [Math.hypot(ax, ay), Math.hypot(bx, by)]
  const even = Math.abs(la - lb) <= 1e-6 * Math.max(la, lb) && Math.abs(ax * bx + ay * by) <= 1e-6 * la * lb && la > 0
  return even ? (ax * by - ay * bx > 0 ? 1 : -1) : undefined
}
