import { choice, type InferType, optionalQuantity, optionalText, quantity, record, text } from '../../base/schema'
import { ROLES } from '../../rules'
import { defineKind } from './kind'

/** Largest photo that is taken, bytes. */
export const PHOTO_LIMIT = 12 * 1024 * 1024
export const PHOTO_TYPES = ['image/jpeg', 'image/png', 'image/webp'] as const

/**
 * A photo of the work. The picture lies beside the record; its SHA-256 stands in it, so that another picture cannot take its place.
 * Sizes in pixels and bytes; latitude and longitude in degrees only where they were kept.
 */
export const photoData = record({
  file: text(36).matches(/^[0-9a-f-]{36}$/, 'must be the id of a photo sent in'),
  sha256: text(64).matches(/^[0-9a-f]{64}$/, 'must be a SHA-256 in hexadecimal'),
  name: text(120),
  type: choice(PHOTO_TYPES),
  bytes: quantity({ min: 1, max: PHOTO_LIMIT, whole: true }),
  width: quantity({ min: 1, max: 30_000, whole: true }),
  height: quantity({ min: 1, max: 30_000, whole: true }),
  /** When the camera says it was taken, in the camera's own time. */
  taken: optionalText(30),
  camera: optionalText(80),
  location: choice(['none', 'kept', 'stripped'] as const),
  latitude: optionalQuantity({ min: -90, max: 90 }),
  longitude: optionalQuantity({ min: -180, max: 180 }),
  caption: optionalText(200),
  /** The entry it shows. */
  of: optionalText(36),
})
export type PhotoData = InferType<typeof photoData>

export const photo = defineKind({
  kind: 'photo',
  roles: ROLES,
  schema: photoData,
  beside: 'anywhere',
  line(entry) {
    const d = entry.data
    const place = d.location === 'stripped' ? ', location left out' : ''
    return `Photo${d.caption ? `: ${d.caption}` : ` ${d.name}`}${place}`
  },
})
