import { sha256 } from '@noble/hashes/sha2'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils'
import { base64 } from '@scure/base'
import {
  bearsSignature,
  type ChainedEntry,
  type ChainFault,
  type CheckpointCode,
  chainFault,
  chainWalk,
  endFault,
  planHash,
  type SignedCheckpoint,
} from '../record'

/** How sums are made: by our own code anywhere, or by what the platform has, which is faster. Both give SHA-256 as 64 hex digits. */
export interface Sums {
  readonly text: (text: string) => string
  /** Of bytes written in base64. */
  readonly base64: (text: string) => string
}

const OWN: Sums = {
  text: (text) => bytesToHex(sha256(utf8ToBytes(text))),
  base64: (text) => bytesToHex(sha256(base64.decode(text))),
}

/** A plan as it was issued. */
export interface RevisionOfFile {
  readonly number: number
  readonly issuedAt: string
  readonly plan: object
}
/** A photo beside the record, its picture in base64. */
export interface PhotoOfFile {
  readonly file: string
  readonly sha256: string
  readonly name: string
  readonly type: string
  readonly content: string
}

/** What a record that holds was held against. */
export interface RecordSeen {
  readonly intact: true
  readonly entries: number
  /** Link of the last entry. */
  readonly head: string
  readonly revisions: number
  /** Photos that were looked at, and those an entry names that are not in the file. */
  readonly photos: number
  readonly photosLeftOut: number
  /** Checkpoints in the file; codes from outside that fit. */
  readonly checkpoints: number
  readonly codes: number
  /** Keys that signed them. */
  readonly keys: readonly string[]
}
export type RecordReport = RecordSeen | ChainFault

/** What a record is held against besides itself. */
export interface HeldAgainst {
  readonly codes?: readonly CheckpointCode[]
  /** Key of the installation as it is known from elsewhere, 64 hex digits: a checkpoint of any other key counts as a fault. */
  readonly key?: string | undefined
  readonly sums?: Sums
}

/**
 * Checks a record piece by piece, in this order: plan revisions, checkpoints, entries, where it ends, photos. Nothing is kept of an entry that
 * has passed but the photo it names, so a record of any length is checked in the same room. The first fault stands.
 */
export interface RecordCheck {
  revision(r: RevisionOfFile): ChainFault | undefined
  checkpoint(c: SignedCheckpoint): ChainFault | undefined
  entry(e: ChainedEntry): ChainFault | undefined
  photo(p: PhotoOfFile): ChainFault | undefined
  /** Number of the entry it stands at. */
  readonly at: number
  /**
   * @param head - where the record says that it ends
   * @param whole - do all photos that entries name have to be there?
   */
  end(head: { seq: number; hash: string } | undefined, whole: boolean): RecordReport
}

/** Revisions and entries by number, tied together. */
function revisionTies(sums: Sums) {
  const plans = new Map<number, string>()
  let issued = 0
  return {
    plans,
    add(r: RevisionOfFile): ChainFault | undefined {
      if (plans.has(r.number)) return chainFault(0, 'revision', `revision ${r.number} of the plan is there twice`)
      plans.set(r.number, planHash(r.plan, sums.text))
      return undefined
    },
    entry(e: ChainedEntry): ChainFault | undefined {
      const data = e.entry.data as { number?: unknown; plan?: unknown } | null
      issued++
      if (data?.number !== issued)
        return chainFault(e.seq, 'revision', `entry ${e.seq} issues revision ${data?.number} where revision ${issued} comes next`)
      return plans.get(issued) === data.plan
        ? undefined
        : chainFault(e.seq, 'altered', `plan revision ${issued} is not the one issued with entry ${e.seq}`)
    },
    end(seq: number): ChainFault | undefined {
      const extra = [...plans.keys()].find((n) => n > issued || n < 1)
      return extra === undefined ? undefined : chainFault(seq, 'revision', `revision ${extra} of the plan has no entry: nobody issued it`)
    },
  }
}

/** Where checkpoints and codes say the record stood, held against where it stands. */
function marksOf(wall: string, { codes = [], key }: HeldAgainst) {
  const marks = new Map<number, { hash: string; said: string }[]>()
  const put = (seq: number, hash: string, said: string) => marks.set(seq, [...(marks.get(seq) ?? []), { hash, said }])
  for (const c of codes) put(c.seq, c.hash, `the code of ${c.day}`)
  const keys = new Set<string>()
  let count = 0
  return {
    keys,
    count: () => count,
    codeFault: (): ChainFault | undefined => {
      const other = codes.find((c) => !wall.replace(/-/g, '').startsWith(c.wall.replace(/-/g, '')))
      if (other) return chainFault(0, 'checkpoint', `the code of ${other.day} is of another wall`)
      const strange = key && codes.find((c) => c.signed && c.signed.key !== key)
      return strange ? chainFault(0, 'checkpoint', `the code of ${strange.day} was signed by another installation`) : undefined
    },
    add(c: SignedCheckpoint): ChainFault | undefined {
      const fault = (why: string) => chainFault(c.seq, 'checkpoint', `the checkpoint of ${c.day} ${why}`)
      if (c.wall !== wall) return fault('is of another wall')
      if (!bearsSignature(c)) return fault('does not bear the signature of its key')
      if (key && c.key !== key) return fault('was signed by another installation')
      keys.add(c.key)
      count++
      put(c.seq, c.hash, `the checkpoint of ${c.day}`)
      return undefined
    },
    pass(seq: number, hash: string): ChainFault | undefined {
      const wrong = marks.get(seq)?.find((m) => !hash.startsWith(m.hash))
      marks.delete(seq)
      return wrong && chainFault(seq, 'checkpoint', `entry ${seq} is not the one ${wrong.said} was made of: the record was made anew up to there`)
    },
    end(seq: number): ChainFault | undefined {
      const beyond = [...marks.keys()].filter((n) => n > seq).sort((a, b) => a - b)[0]
      if (beyond === undefined) return undefined
      return chainFault(seq + 1, 'removed', `entry ${seq + 1} was removed: ${marks.get(beyond)?.[0]?.said} says that the record went up to ${beyond}`)
    },
  }
}

/** Photos that entries name, until their picture has passed. */
function photoTies(sums: Sums) {
  const wanted = new Map<string, { sha256: string; seq: number }>()
  let seen = 0
  return {
    seen: () => seen,
    missing: () => wanted.size,
    entry(e: ChainedEntry) {
      const { file, sha256: sum } = (e.entry.data ?? {}) as { file?: unknown; sha256?: unknown }
      if (typeof file === 'string' && typeof sum === 'string') wanted.set(file, { sha256: sum, seq: e.seq })
    },
    add(p: PhotoOfFile): ChainFault | undefined {
      const of = wanted.get(p.file)
      if (!of) return undefined
      let sum = ''
      try {
        sum = sums.base64(p.content)
      } catch {
        // Not base64: no picture at all.
      }
      if (sum !== of.sha256)
        return chainFault(of.seq, 'photo', `the photo of entry ${of.seq} is not the one that was recorded: another was put in its place`)
      wanted.delete(p.file)
      seen++
      return undefined
    },
    end(): ChainFault | undefined {
      const first = wanted.values().next().value
      return first && chainFault(first.seq, 'photo', `the photo of entry ${first.seq} is missing`)
    },
  }
}

/**
 * Begins the check of a wall's record.
 *
 * @example
 * const check = recordCheck(file.wall)
 * for (const e of file.entries) if (check.entry(e)) …
 */
export function recordCheck(wall: string, against: HeldAgainst = {}): RecordCheck {
  const sums = against.sums ?? OWN
  const walk = chainWalk(wall, sums.text)
  const revisions = revisionTies(sums)
  const marks = marksOf(wall, against)
  const photos = photoTies(sums)
  let first = marks.codeFault()
  const keep = (fault: ChainFault | undefined) => {
    first ??= fault
    return first
  }
  return {
    get at() {
      return walk.at.seq
    },
    revision: (r) => keep(revisions.add(r)),
    checkpoint: (c) => keep(marks.add(c)),
    entry(e) {
      if (first) return first
      const wrong = walk.take(e) ?? marks.pass(e.seq, e.hash)
      if (wrong) return keep(wrong)
      if (e.entry.kind === 'revision') return keep(revisions.entry(e))
      if (e.entry.kind === 'photo') photos.entry(e)
      return undefined
    },
    photo: (p) => keep(photos.add(p)),
    end(head, whole) {
      const wrong = keep(
        (head && endFault(walk.at, head)) ?? marks.end(walk.at.seq) ?? revisions.end(walk.at.seq) ?? (whole ? photos.end() : undefined),
      )
      if (wrong) return wrong
      return {
        intact: true,
        entries: walk.at.seq,
        head: walk.at.hash,
        revisions: revisions.plans.size,
        photos: photos.seen(),
        photosLeftOut: photos.missing(),
        checkpoints: marks.count(),
        codes: against.codes?.length ?? 0,
        keys: [...marks.keys],
      }
    },
  }
}
