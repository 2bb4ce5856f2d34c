/**
 * Which fields of a form stand in front and which behind “more”: none changes its place while
 * somebody types.
 */

export class ShownFields {
  private begun = $state.raw<Set<string>>(new Set());

  /** `given` names the fields that have a value now. */
  constructor(private readonly given: () => string[]) {
    this.begun = new Set(given());
  }

  /**
   * Whether a field that most do without stands in front: it had a value when nobody was in the
   * form last.
   */
  has(name: string): boolean {
    return this.begun.has(name);
  }

  /**
   * For the form's `focusout`: once nobody is in it any more, fields that were filled in stand in
   * front.
   */
  settle = (event: FocusEvent): void => {
    const form = event.currentTarget as HTMLElement;
    if (!form.contains(event.relatedTarget as Node | null)) this.begun = new Set(this.given());
  };
}
