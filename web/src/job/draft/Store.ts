/** A state that screens follow, each told of every change: read by React's `useSyncExternalStore`. */
export class Store<State> {
  #state: State;
  readonly #followers = new Set<() => void>();

  constructor(state: State) {
    this.#state = state;
  }

  readonly read = (): State => this.#state;

  readonly follow = (follower: () => void): (() => void) => {
    this.#followers.add(follower);
    return () => {
      this.#followers.delete(follower);
    };
  };

  protected set(state: State): void {
    this.#state = state;
    for (const follower of this.#followers) follower();
  }
}
