/** What is still to be mended on the Bench, gone through by key: wrong fields first, then what stops, then what warns. */
import type { Bench } from '#lib/bench.svelte.ts';

export class Mending {
  /** Which of the findings the key has led to; -1 before the first. */
  private at = -1;

  constructor(private readonly bench: Bench) {}

  private readonly open = () =>
    (this.bench.result?.findings ?? [])
      .map((finding, index) => ({ finding, index }))
      .filter(({ finding }) => !finding.waived && finding.severity !== 'note');

  /** To the next one, or the one before. */
  step = async (by: 1 | -1): Promise<void> => {
    if (Object.keys(this.bench.errors).length) return this.wrong(by);
    const open = this.open();
    if (!open.length) return;
    this.at = (this.at < 0 ? (by > 0 ? 0 : open.length - 1) : this.at + by + open.length) % open.length;
    const { finding, index } = open[this.at]!;
    await this.bench.goTo(this.bench.opens[index]!, finding.remedy);
  };

  /** Close the one that the key has led to by its word, where it has one; the next one is then in its place. */
  close = async (): Promise<void> => {
    const found = this.open()[Math.max(this.at, 0)]?.finding;
    if (!found?.act || this.bench.stale) return;
    this.at -= 1;
    await this.bench.act(found.act, found.sets ?? {});
  };

  /** The next wrong field, or the one before: within its section in the order in which they stand there. */
  private async wrong(by: 1 | -1): Promise<void> {
    const here = [...document.querySelectorAll<HTMLElement>('[data-section] [aria-invalid="true"]')];
    const place = here.indexOf(document.activeElement as HTMLElement);
    const next = place < 0 ? undefined : here[place + by];
    if (next) return next.focus();
    const sections = [...new Set(this.bench.wrong.map((one) => one.section))];
    const to = sections[(sections.indexOf(this.bench.open) + (place < 0 ? 0 : by) + sections.length) % sections.length];
    const one = this.bench.wrong.find(({ section }) => section === (to ?? sections[0]))!;
    await this.bench.goTo(one, one.text);
  }
}
