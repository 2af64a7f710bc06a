import { createHash } from 'node:crypto'
import type { Sums } from '@stone-tally/core'

/** SHA-256 of a text, by the platform. */
export const sumOfText = (text: string): string => createHash('sha256').update(text, 'utf8').digest('hex')

/** The platform's own way to the sums a record is checked by: the same as the core's, and faster. */
export const SUMS: Sums = { text: sumOfText, base64: (text) => createHash('sha256').update(Buffer.from(text, 'base64')).digest('hex') }
