import { ed25519 } from '@noble/curves/ed25519'
import { bytesToHex, hexToBytes, utf8ToBytes } from '@noble/hashes/utils'
import { bech32m } from '@scure/base'
import { fail, ok, type Result } from '../base/result'

/**
 * Where the record of a wall stood on a day: number and link of its last entry. Whoever keeps it can tell later that nothing up to there was
 * taken out, put in or changed, whatever has become of the record's own account of itself.
 */
export interface Checkpoint {
  /** Id of the wall. */
  readonly wall: string
  /** Day as 2026-05-31, UTC. */
  readonly day: string
  /** Number of the last entry. */
  readonly seq: number
  /** Its link, 64 hex digits. */
  readonly hash: string
}

/** A checkpoint with the signature of the installation that made it. */
export interface SignedCheckpoint extends Checkpoint {
  /** Public key of the installation, Ed25519, 64 hex digits. */
  readonly key: string
  /** Signature, 128 hex digits. */
  readonly signature: string
}

/** What is signed: each field on a line, behind a word that says what it is, so that it can be taken for nothing else. */
const signedText = (c: Checkpoint) => utf8ToBytes(`stone-tally checkpoint 1\n${c.wall}\n${c.day}\n${c.seq}\n${c.hash}`)

/** The public key of a private one, both 64 hex digits (RFC 8032). */
export const publicKeyOf = (secret: string): string => bytesToHex(ed25519.getPublicKey(secret))

/**
 * Signs a checkpoint with the key of the installation.
 *
 * @param secret - private key, 64 hex digits
 * @example signCheckpoint({ wall, day: '2026-05-31', seq: 214, hash }, secret).signature
 */
export const signCheckpoint = (c: Checkpoint, secret: string): SignedCheckpoint => ({
  wall: c.wall,
  day: c.day,
  seq: c.seq,
  hash: c.hash,
  key: publicKeyOf(secret),
  signature: bytesToHex(ed25519.sign(signedText(c), secret)),
})

/** Is the signature that of the key it names? Whose key that is, whoever looks must know by other means. */
export function bearsSignature(c: SignedCheckpoint): boolean {
  try {
    return ed25519.verify(c.signature, signedText(c), c.key)
  } catch {
    // Not hex, or not a point of the curve.
    return false
  }
}

const PREFIX = 'stone'
const DAY_MS = 86_400_000
/** Bytes of the link in a short code: 80 bits, which nobody finds a second record for. */
const LINK_BYTES = 10
/** The largest number of an entry that a code carries. */
const MOST = 0xffffffff

/**
 * A checkpoint short enough to be read out or typed off paper: day, number, the beginnings of wall and link, and a sum that notices slips
 * (bech32m, BIP 350). The signature is not in it: whoever received the code from the crew has it from them.
 *
 * @example codeOf(checkpoint) // 'stone1q2z6 …', in groups of six
 */
export function codeOf(c: Checkpoint): string {
  if (c.seq > MOST) throw new RangeError('an entry of that number has no code')
  const bytes = new Uint8Array(4 + 2 + 4 + LINK_BYTES)
  const view = new DataView(bytes.buffer)
  bytes.set(hexToBytes(c.wall.replace(/-/g, '').slice(0, 8)), 0)
  view.setUint16(4, Date.parse(`${c.day}T00:00:00Z`) / DAY_MS)
  view.setUint32(6, c.seq)
  bytes.set(hexToBytes(c.hash.slice(0, 2 * LINK_BYTES)), 10)
  return (bech32m.encode(PREFIX, bech32m.toWords(bytes)).match(/.{1,6}/g) as string[]).join(' ')
}

/** What a code says: of the wall and the link their beginnings, or all of them. */
export interface CheckpointCode {
  readonly wall: string
  readonly day: string
  readonly seq: number
  readonly hash: string
  /** The whole of it, where the code is the long one: its signature was looked at. */
  readonly signed?: SignedCheckpoint
}

const LONG = 'stone-tally:checkpoint:'
const FIELDS = /^([0-9a-f-]{36}):(\d{4}-\d\d-\d\d):(\d{1,10}):([0-9a-f]{64}):([0-9a-f]{64}):([0-9a-f]{128})$/

/** The whole of a checkpoint as text for a QR code. @example longCodeOf(signed) // 'stone-tally:checkpoint:…' */
export const longCodeOf = (c: SignedCheckpoint): string => `${LONG}${c.wall}:${c.day}:${c.seq}:${c.hash}:${c.key}:${c.signature}`

/**
 * Reads a code as it was kept: the short one in any case with or without gaps, or the long one.
 *
 * @returns what it says; or that it was copied wrongly, or that its signature is not that of its key
 * @example readCode('stone1 …')
 */
export function readCode(given: string): Result<CheckpointCode> {
  const text = given.trim()
  if (text.toLowerCase().startsWith(LONG)) {
    const m = FIELDS.exec(text.slice(LONG.length).toLowerCase())
    if (!m) return fail('code', 'is not complete; scan it again, all of it')
    const [wall, day, seq, hash, key, signature] = m.slice(1) as [string, string, string, string, string, string]
    const signed = { wall, day, seq: Number(seq), hash, key, signature }
    return bearsSignature(signed)
      ? ok({ ...signed, signed })
      : fail('code', 'bears a signature that is not that of its key: it was changed after it was given out')
  }
  const plain = text.toLowerCase().replace(/[\s-]+/g, '')
  if (!plain.startsWith(`${PREFIX}1`)) return fail('code', `begins with ${PREFIX}1; this is "${text.slice(0, 12)}"`)
  const read = bech32m.decodeUnsafe(plain, false)
  const bytes = read && bech32m.fromWordsUnsafe(read.words)
  if (!bytes || bytes.length !== 10 + LINK_BYTES) return fail('code', 'has a sign that is wrong or missing; compare it with the paper')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  return ok({
    wall: bytesToHex(bytes.slice(0, 4)),
    day: new Date(view.getUint16(4) * DAY_MS).toISOString().slice(0, 10),
    seq: view.getUint32(6),
    hash: bytesToHex(bytes.slice(10)),
  })
}
