/**
 * What is still to be fixed on the Bench, gone through by key: wrong fields first, then what stops,
 * then what warns.
 */
import type { Schemas } from '#lib/api/client.ts';
import type { Bench } from '#lib/bench.svelte.ts';

export class Mending {
  /**
   * The finding that the key has led to, and the place it had: another one may have come there
   * meanwhile.
   */
  current = $state('');
  private at = -1;

  constructor(private readonly bench: Bench) {}

  readonly key = (finding: Schemas['FindingOut']): string => finding.code + finding.where;

  private readonly open = () =>
    (this.bench.result?.findings ?? [])
      .map((finding, index) => ({ finding, index }))
      .filter(({ finding }) => !finding.waived && finding.severity !== 'note');

  /** To the next one, or the one before. */
  step = async (by: 1 | -1): Promise<void> => {
    await this.bench.quiet();
    if (Object.keys(this.bench.errors).length) return this.wrong(by);
    const open = this.open();
    if (!open.length) return;
    const now = open.findIndex(({ finding }) => this.key(finding) === this.current);
    // where the last one is closed, the next one stands in its place
    const next = now >= 0 ? now + by : by > 0 ? Math.max(this.at, 0) : this.at - 1;
    this.at = (next + open.length) % open.length;
    const { finding, index } = open[this.at]!;
    this.current = this.key(finding);
    await this.bench.goTo(this.bench.opens[index]!, finding.remedy);
  };

  private async found(): Promise<Schemas['FindingOut'] | undefined> {
    await this.bench.quiet();
    return this.open().find(({ finding }) => this.key(finding) === this.current)?.finding;
  }

  /** Close the one that the key has led to by its word, where it has one. */
  close = async (): Promise<void> => {
    const found = await this.found();
    if (found?.act) await this.bench.act(found.act, found.sets ?? {});
  };

  /** Ask for the reason with which the one that the key has led to is waived. */
  reason = async (): Promise<void> => {
    const found = await this.found();
    if (found?.waivable) this.bench.asking = found;
  };

  /**
   * The next wrong field, or the one before: within its section in the order in which they stand
   * there.
   */
  private async wrong(by: 1 | -1): Promise<void> {
    const here = [
      ...document.querySelectorAll<HTMLElement>('[data-section] [aria-invalid="true"]'),
    ];
    const place = here.indexOf(document.activeElement as HTMLElement);
    const next = place < 0 ? undefined : here[place + by];
    if (next) return next.focus();
    const sections = [...new Set(this.bench.wrong.map((one) => one.section))];
    const to =
      sections[
        (sections.indexOf(this.bench.open) + (place < 0 ? 0 : by) + sections.length) %
          sections.length
      ];
    const one = this.bench.wrong.find(({ section }) => section === (to ?? sections[0]))!;
    await this.bench.goTo(one, one.text);
  }
}
