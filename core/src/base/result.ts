/** One thing that is wrong: where, and in plain words what is wrong, the limit and what to do. */
export interface Problem {
  readonly field: string
  readonly message: string
}

/** An expected failure is a value, never an exception. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problems: readonly Problem[] }

/** @example ok(3) // { ok: true, value: 3 } */
export const ok = <T>(value: T): Result<T> => ({ ok: true, value })

/** @example fail('length', 'must be over 0 m') */
export const fail = (field: string, message: string): Result<never> => ({ ok: false, problems: [{ field, message }] })

/** A failure with several problems. */
export const failAll = (problems: readonly Problem[]): Result<never> => ({ ok: false, problems })
