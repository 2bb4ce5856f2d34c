/** Sentences of the screens, read at build: the browser need not carry what reads them. */
import { parse } from '@formatjs/icu-messageformat-parser';
import type { Plugin } from 'vite';

export function sentences(): Plugin {
  return {
    name: 'sentences',
    enforce: 'pre',
    transform(code, file) {
      if (!file.endsWith('/lib/sentences.json')) return undefined;
      const texts = JSON.parse(code) as Record<string, string>;
      const read = Object.fromEntries(
        Object.entries(texts).map(([key, text]) => [key, parse(text, { captureLocation: false })]),
      );
      return { code: `export default ${JSON.stringify(read)}`, moduleType: 'js', map: null };
    },
  };
}
