/** Things in the order of a comparison, the first always at hand. */
export class Heap<T> {
  readonly #items: T[] = [];
  readonly #compare: (a: T, b: T) => number;

  constructor(compare: (a: T, b: T) => number) {
    this.#compare = compare;
  }

  get size(): number {
    return this.#items.length;
  }

  first(): T | undefined {
    return this.#items[0];
  }

  push(item: T): void {
    const items = this.#items;
    let i = items.push(item) - 1;
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if (this.#compare(items[parent]!, item) <= 0) break;
      items[i] = items[parent]!;
      i = parent;
    }
    items[i] = item;
  }

  pop(): T | undefined {
    const items = this.#items;
    const first = items[0];
    const last = items.pop();
    if (items.length === 0 || last === undefined) return first;
    let i = 0;
    for (;;) {
      let child = 2 * i + 1;
      if (child >= items.length) break;
      if (child + 1 < items.length && this.#compare(items[child + 1]!, items[child]!) < 0) child++;
      if (this.#compare(last, items[child]!) <= 0) break;
      items[i] = items[child]!;
      i = child;
    }
    items[i] = last;
    return first;
  }
}
