/**
 * What can be undone: texts of a document, the last one last; typing without a pause is one act.
 */
const MOST = 200;
const PAUSE_MS = 900;

export class History {
  private past = $state.raw<string[]>([]);
  private future = $state.raw<string[]>([]);
  private last = 0;
  private going = false;

  readonly canUndo = $derived(this.past.length > 0);
  readonly canRedo = $derived(this.future.length > 0);

  clear(): void {
    this.past = this.future = [];
    this.last = 0;
  }

  /** The text before a change. */
  keep(text: string): void {
    if (this.going || !text) {
      this.going = false;
      return;
    }
    const now = performance.now();
    if (now - this.last > PAUSE_MS || !this.past.length)
      this.past = [...this.past.slice(-MOST), text];
    this.last = now;
    this.future = [];
  }

  /** The text before the last act, where there is one. */
  back(text: string): string | undefined {
    const before = this.past.at(-1);
    if (before === undefined) return undefined;
    this.past = this.past.slice(0, -1);
    this.future = [...this.future, text];
    this.go();
    return before;
  }

  forward(text: string): string | undefined {
    const after = this.future.at(-1);
    if (after === undefined) return undefined;
    this.future = this.future.slice(0, -1);
    this.past = [...this.past, text];
    this.go();
    return after;
  }

  private go(): void {
    this.going = true;
    this.last = 0;
  }
}
