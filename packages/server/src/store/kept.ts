/** Reads something of a job from the database when nothing of it is at hand. */
type ReadOf<T> = (jobId: string) => Promise<T>

/**
 * Something of each job as it stands, kept in memory. A write works on drafts of its own: they take the place of what
 * is kept when it is done, and are forgotten when it fails. Who reads sees a state from before or after a write, never
 * half of one.
 */
export class Kept<T> {
  readonly #kept = new Map<string, T>()
  readonly #coming = new Map<string, Promise<T>>()

  constructor(readonly read: ReadOf<T>) {}

  /** As it stands after the last write that is done. */
  get(jobId: string): Promise<T> {
    const known = this.#kept.get(jobId)
    if (known !== undefined) return Promise.resolve(known)
    const coming = this.#coming.get(jobId)
    if (coming) return coming
    const reading = this.read(jobId)
    this.#coming.set(jobId, reading)
    // A write that ends meanwhile says what is right: what was read before it is not kept.
    const isLast = () => this.#coming.get(jobId) === reading
    reading
      .then((value) => isLast() && this.#kept.set(jobId, value))
      .catch(() => undefined)
      .finally(() => isLast() && this.#coming.delete(jobId))
    return reading
  }

  /** What is kept, without reading it. */
  peek(jobId: string): T | undefined {
    return this.#kept.get(jobId)
  }

  /** Takes over what a write has made; `undefined` for what has to be read anew, or is gone. */
  settle(jobId: string, value: T | undefined): void {
    this.#coming.delete(jobId)
    if (value === undefined) this.#kept.delete(jobId)
    else this.#kept.set(jobId, value)
  }
}

/** Drafts of one write. */
export class Drafts<T> {
  readonly made = new Map<string, T | undefined>()

  constructor(
    readonly peek: (jobId: string) => T | undefined,
    readonly read: ReadOf<T>,
  ) {}

  /** As it stands within the write. */
  async get(jobId: string): Promise<T> {
    const draft = this.made.get(jobId)
    if (draft !== undefined) return draft
    const known = this.made.has(jobId) ? undefined : this.peek(jobId)
    return known ?? this.read(jobId)
  }
}
