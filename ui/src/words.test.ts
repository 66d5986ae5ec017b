import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import page from '../../wording/messages/en/page.json';
import views from '../../wording/messages/en/views.json';
import terms from '../../wording/messages/en/terms.json';
import { inUsage, say, sayList, speak, speakHere, textsOfViews, type Key } from '@/words';

const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter(
  (f) => /\.(vue|ts)$/.test(f) && !/\.test\.ts$|schema\.d\.ts$/.test(f),
);
const read = (f: string) => readFileSync(join('src', f), 'utf8');
const texts = { ...page, ...views };

// A key is used where it stands whole, or where a template with its head stands:
// `plan.shows.${…}`.
function usesOf(files: string[]) {
  const source = files.map(read).join('\n');
  const heads = [...source.matchAll(/`([a-z][\w.]*\.)\$\{/gi)].map((m) => m[1]!);
  return (key: string) =>
    source.includes(`'${key}'`) || source.includes(`\`${key}\``) || heads.some((head) => key.startsWith(head));
}
const used = usesOf(files);

// What is loaded before anything is painted: what main.ts imports, and what that imports.
function atOnce(file: string, known: Set<string> = new Set()): Set<string> {
  if (known.has(file)) return known;
  known.add(file);
  for (const [, name] of read(file).matchAll(/^(?:import (?!type ).*|\} )from '@\/([^']+)'/gm))
    atOnce(/\.(vue|ts)$/.test(name!) ? name! : `${name}.ts`, known);
  return known;
}

describe('the texts of the screens', () => {
  it.each(Object.keys(texts))('%s is used', (key) => expect(used(key)).toBe(true));

  it('are there at once where they are said at once, and come later where they are not', () => {
    const first = atOnce('main.ts');
    expect(first).toContain('features/bench/pad/EntryPad.vue');
    const saidAtOnce = usesOf([...first]);
    expect(Object.keys(views).filter(saidAtOnce)).toEqual([]);
    expect(Object.keys(page).filter((key) => !saidAtOnce(key))).toEqual([]);
    expect(Object.keys(views).filter((key) => key in page)).toEqual([]);
  });

  it('that come later are not taken for missing before', async () => {
    expect(say('edit.purpose')).toBe('edit.purpose');
    await textsOfViews();
    expect(say('edit.purpose')).toBe(views['edit.purpose']);
  });

  it('name only terms that there are', () => {
    const named = [...JSON.stringify(texts).matchAll(/\[(\w+)\]/g)].map((m) => m[1]!);
    expect(named.length).toBeGreaterThan(5);
    expect(named.filter((n) => !(n in terms))).toEqual([]);
  });

  it('leave no word of one usage bare', () => {
    const bare = Object.entries(texts)
      .filter(([key]) => !key.startsWith('account.words'))
      .map(([key, text]) => `${key}: ${JSON.stringify(text).replace(/\[[^\]]*\]|\{[^}]*\}/g, '')}`)
      .filter((line) => /\b(titres?|titers?|burettes?|burets?|conical flask)\b/i.test(line.slice(line.indexOf(':'))));
    expect(bare).toEqual([]);
  });

  it('spell as the usage does, and leave the names of values', () => {
    expect(inUsage('The colour of {colour}, standardised, grey', 'titer')).toBe(
      'The color of {colour}, standardized, gray',
    );
    expect(inUsage('The colour, grey', 'titre')).toBe('The colour, grey');
  });

  it('are said in the usage that was chosen', () => {
    expect(inUsage('[Titre] of the [burette]', 'titer')).toBe('Titer of the buret');
    expect(say('bench.titre')).toBe('Titre');
    speak('titer');
    expect(say('bench.titre')).toBe('Titer');
    speak('titre');
  });

  it('what is open is said in its own usage, whatever becomes of the reader meanwhile', () => {
    speak('titre');
    speakHere('titer');
    expect(say('bench.titre')).toBe('Titer');
    speak('titre'); // the session was asked again
    expect(say('bench.titre')).toBe('Titer');
    speakHere();
    expect(say('bench.titre')).toBe('Titre');
  });

  it.each([
    [0, 'no accurate trials'],
    [1, '1 accurate trial'],
    [3, '3 accurate trials'],
  ])('count %i in the form of that number', (n, text) => expect(say('shelf.trials', {}, n)).toBe(text));

  it('put values where they belong', () => {
    expect(say('bench.accept' satisfies Key, { reading: '23.40' })).toContain('23.40');
    expect(sayList('reasons.correction').length).toBeGreaterThan(3);
  });
});
