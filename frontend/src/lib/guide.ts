/** The chapters of the guide, and which of them belongs to a page. */

export interface Chapter {
  id: string;
  title: string;
  html: string;
}

const MODULES = import.meta.glob<{ title: string; html: string }>('../../../docs/guide/*-*.md', {
  eager: true,
});

export const CHAPTERS: Chapter[] = Object.entries(MODULES)
  .sort(([a], [b]) => a.localeCompare(b))
  .map(([path, { title, html }]) => ({ id: /\d-([a-z-]+)\.md$/.exec(path)![1]!, title, html }));
