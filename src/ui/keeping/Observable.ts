/** Something with a state that is replaced whole, and those who are told of it; read with `useSyncExternalStore`. */
export class Observable<State extends object> {
  private readonly listeners = new Set<() => void>();

  constructor(protected state: State) {}

  readonly getState = (): State => this.state;

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  protected get isWatched(): boolean {
    return this.listeners.size > 0;
  }

  protected set(part: Partial<State>): void {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }
}
