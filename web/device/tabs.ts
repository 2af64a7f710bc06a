'use client'

/** What one tab tells the others. */
export type Word =
  /** What waits for a wall changed. */
  | { readonly is: 'box'; readonly wall: string }
  /** The record went on: its new entries as lines of JSON. */
  | { readonly is: 'entries'; readonly wall: string; readonly text: string }
  /** The one who holds the line says how it stands. */
  | { readonly is: 'line'; readonly wall: string; readonly live: 'live' | 'lost' }
  /** Somebody is somewhere on a wall. */
  | { readonly is: 'here'; readonly wall: string; readonly text: string }
  /** Signed out, or another person: nobody goes on showing what is not theirs. */
  | { readonly is: 'gone' }

type Listener = (word: Word) => void
const here = new Set<Listener>()
let channel: BroadcastChannel | undefined
const line = () => {
  if (channel || typeof BroadcastChannel === 'undefined') return channel
  channel = new BroadcastChannel('stone-tally')
  channel.onmessage = (e: MessageEvent<Word>) => {
    for (const listener of here) listener(e.data)
  }
  return channel
}

/** Tells every tab of this device, this one too. */
export function tell(word: Word) {
  line()?.postMessage(word)
  for (const listener of here) listener(word)
}
/** Tells the other tabs only. */
export const tellOthers = (word: Word) => line()?.postMessage(word)

/** @returns ends it */
export function hear(listener: Listener): () => void {
  line()
  here.add(listener)
  return () => here.delete(listener)
}

/** One tab of this device does it, the others wait for their turn; without locks each does its own. */
export async function alone<T>(name: string, work: () => Promise<T>, signal?: AbortSignal): Promise<T> {
  if (typeof navigator === 'undefined' || !navigator.locks) return work()
  return navigator.locks.request(name, signal ? { signal } : {}, work) as Promise<T>
}
