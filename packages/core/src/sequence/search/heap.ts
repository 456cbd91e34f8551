/** A binary heap: the least first, as `before` says. */
export class Heap<T> {
  readonly #items: T[] = []

  constructor(readonly before: (a: T, b: T) => boolean) {}

  get size(): number {
    return this.#items.length
  }

  peek(): T | undefined {
    return this.#items[0]
  }

  push(item: T): void {
    const items = this.#items
    let at = items.push(item) - 1
    while (at > 0) {
      const parent = (at - 1) >> 1
      const above = items[parent] as T
      if (!this.before(item, above)) break
      items[at] = above
      at = parent
    }
    items[at] = item
  }

  pop(): T | undefined {
    const items = this.#items
    const top = items[0]
    const last = items.pop()
    if (last === undefined || items.length === 0) return top
    let at = 0
    for (;;) {
      let child = 2 * at + 1
      if (child >= items.length) break
      if (child + 1 < items.length && this.before(items[child + 1] as T, items[child] as T)) child += 1
      const below = items[child] as T
      if (!this.before(below, last)) break
      items[at] = below
      at = child
    }
    items[at] = last
    return top
  }
}
