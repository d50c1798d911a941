/** Edits closer together than this are undone together. */
const BURST_MS = 700;
const MOST_UNDONE = 100;

/** What was there before, to go back to and on again. */
export class History<T> {
  #past: T[] = [];
  #future: T[] = [];
  #lastEditMs = Number.NEGATIVE_INFINITY;

  get mayGoBack(): boolean {
    return this.#past.length > 0;
  }

  get mayGoOn(): boolean {
    return this.#future.length > 0;
  }

  /** Takes down what stood before an edit at a moment; one of a burst goes back with the burst. */
  edited(before: T, atMs: number): void {
    if (atMs - this.#lastEditMs > BURST_MS) this.replaced(before);
    this.#lastEditMs = atMs;
    this.#future = [];
  }

  /** Takes down what stood before another whole was put in its place. */
  replaced(before: T): void {
    this.#past = [...this.#past, before].slice(-MOST_UNDONE);
  }

  back(from: T): T | undefined {
    return this.#step(this.#past, this.#future, from);
  }

  on(from: T): T | undefined {
    return this.#step(this.#future, this.#past, from);
  }

  forget(): void {
    this.#past = [];
    this.#future = [];
  }

  #step(source: T[], target: T[], from: T): T | undefined {
    const next = source.pop();
    if (next === undefined) return undefined;
    target.push(from);
    this.#lastEditMs = Number.NEGATIVE_INFINITY;
    return next;
  }
}
