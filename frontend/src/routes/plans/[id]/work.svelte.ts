/**
 * Which working is open on the Bench: the figure by its name in the API, and what people call it.
 */
export class Work {
  figure = $state('');
  title = $state('');

  show = (figure: string, title: string): void => {
    this.figure = figure;
    this.title = title;
  };
}
